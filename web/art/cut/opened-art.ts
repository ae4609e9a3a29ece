import type { ArtRef, Plane } from '@keen-ridge/core/scene';
import { factsOf } from '@keen-ridge/core/staging/content';

export interface OpenedArt {
  readonly art: ArtRef;
  /** The cut that is changed; null for a new one. */
  readonly change: Extract<
    NonNullable<Extract<Plane['content'], { kind: 'still' }>['made']>,
    { kind: 'cut' }
  > | null;
}

export function openedArt({ content }: Plane, change: boolean): OpenedArt | null {
  if (content.kind !== 'still' || !factsOf(content).painted) return null;
  const made = content.made?.kind === 'cut' ? content.made : null;
  return change && made ? { art: made.from, change: made } : { art: content.art, change: null };
}
