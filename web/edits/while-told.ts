import { reasonOf } from '@keen-ridge/core/units';
import { toast } from 'sonner';
import { uiWords as say } from '../words/ui.ts';

/** Tells that something could not be done, and why. */
export const tellFault = (error: unknown): void => {
  toast.error(reasonOf(error));
};

/** Tells what is done while one waits, with a way to call it off. Null where it was called off or failed, which is told too. */
export async function whileTold<T>(
  words: string,
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T | null> {
  const abort = new AbortController();
  const shown = toast.loading(words, {
    duration: Number.POSITIVE_INFINITY,
    action: { label: say.cancel, onClick: () => abort.abort() },
  });
  try {
    return await work(abort.signal);
  } catch (error) {
    if (!abort.signal.aborted) tellFault(error);
    return null;
  } finally {
    toast.dismiss(shown);
  }
}
