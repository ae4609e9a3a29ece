import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

let collect: (() => void) | null = null;

/**
 * Collects garbage now. An idle process allocates nothing, so that it would keep gigabytes of closed memories and done
 * with buffers for good: nothing else makes the engine look.
 */
export function giveMemoryBack(): void {
  if (!collect) {
    setFlagsFromString('--expose-gc');
    collect = runInNewContext('gc') as () => void;
  }
  collect();
}
