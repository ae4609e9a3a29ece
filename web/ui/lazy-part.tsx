import { type ComponentType, lazy, Suspense } from 'react';

/** The page waits for its own script and its picture first: it seems idle between two of them. */
const FETCHED_AFTER_MS = 3000;

/** Fetches what is wanted later as soon as the page has nothing else to do. */
export function fetchEarly(load: () => Promise<unknown>): void {
  // Whoever wants it tries again, and is told why it cannot be had.
  const early = () => void load().catch(() => undefined);
  setTimeout(() => globalThis.requestIdleCallback?.(early), FETCHED_AFTER_MS);
}

/**
 * A part of the page that is asked for by a click, and that nobody types into the moment it opens: not in the script that
 * the page waits for, but fetched as soon as the page has nothing else to do, so that it is there when it is wanted, also
 * when the server has gone away by then.
 */
export function lazyPart<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  let loading: Promise<{ default: ComponentType<P> }> | null = null;
  const once = () => {
    loading ??= load().then(
      (part) => ({ default: part }),
      (error: unknown) => {
        loading = null;
        throw error;
      },
    );
    return loading;
  };
  fetchEarly(once);
  const Part = lazy(once) as ComponentType<P>;
  return (props) => (
    <Suspense fallback={null}>
      <Part {...props} />
    </Suspense>
  );
}
