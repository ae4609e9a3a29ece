import { ProblemError } from '../faults/problems.ts';
import { ArtMissing } from './frame-renderer.ts';

/** Art that cannot be had is nothing that trying again would mend: to be told as a problem. Throws what it is given else. */
export function named(error: unknown): never {
  if (error instanceof ArtMissing) throw new ProblemError('unreadable-art', error.message);
  throw error;
}
