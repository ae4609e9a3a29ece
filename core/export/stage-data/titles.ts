import type { PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import type { StageColumn } from './columns.ts';

/** Titles by the planes' names; with the ids of planes where two titles would be the same, whatever they are of. */
export function titlesOf(scene: Scene, columns: readonly StageColumn[]): string[] {
  const names = new Map(planesOf(scene).map(({ id, name }) => [id, name] as const));
  const byId = new Set<PlaneId>();
  const titleOf = ({ plane, pin, name }: StageColumn): string => {
    if (plane === null) return name;
    const of = pin === null ? name : `pin ${pin} ${name}`;
    return byId.has(plane) ? `${names.get(plane)} (${plane}) ${of}` : `${names.get(plane)} ${of}`;
  };
  // A name may look like one with its id: those that meet are told apart until none do.
  for (let before = -1; byId.size > before; ) {
    before = byId.size;
    const titles = columns.map(titleOf);
    const count = new Map<string, number>();
    for (const title of titles) count.set(title, (count.get(title) ?? 0) + 1);
    columns.forEach(({ plane }, i) => {
      if (plane !== null && (count.get(titles[i] as string) as number) > 1) byId.add(plane);
    });
  }
  return columns.map(titleOf);
}
