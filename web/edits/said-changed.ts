import type { ChangedMany } from '@keen-ridge/core/contract/many';
import { toast } from 'sonner';
import { counted } from '../ui/format.ts';
import { editsWords as say } from '../words/edits.ts';

/** Says what became of each shot. */
export function sayChanged({ changed, same, left }: ChangedMany): void {
  if (changed.length > 0) toast.success(say.countedChanged(counted(changed.length, 'shot')));
  if (same.length > 0) toast(say.nothingToChangeIn(same.map(({ name }) => name).join(', ')));
  for (const { name, why } of left) toast.error(say.leftBecause(name, why), { duration: 15_000 });
}
