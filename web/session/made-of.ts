import type { Scene } from '@keen-ridge/core/scene';

/** The records of a scene that edits share with the scene that they start from. */
const recordsOf = ({ planes, ...rest }: Scene): Map<string, unknown> =>
  new Map<string, unknown>([
    ...Object.entries(rest),
    ...Object.entries(planes).map(([id, plane]) => [`planes/${id}`, plane] as const),
  ]);

/**
 * Which of two scenes an edit started from, told by what it has left alone: `now` where it holds something that only
 * that has, else `before`.
 */
export function madeOf(made: Scene, before: Scene, now: Scene): Scene {
  if (before === now) return now;
  const [old, mine] = [recordsOf(before), recordsOf(made)];
  for (const [name, record] of recordsOf(now))
    if (record !== old.get(name) && record === mine.get(name)) return now;
  return before;
}
