import type { Scene } from '../../scene/index.ts';
import { planesOf, withPlaneList } from '../../scene/records/index.ts';

/** Words that painting programs put in by themselves; alone they say nothing of what is painted. */
const COPY_MARK = /\s*[-_(]?\s*\b(copy|duplicate|merged|pasted layer)\b\s*\d*\s*\)?$/i;

/** Underscores and runs of white space to single spaces, copy marks and file endings off, first letter large. */
export function tidyName(name: string): string {
  const spaced = name
    .replace(/\.(png|jpe?g|webp|tiff?|svg|gif|psd|psb|ora)$/i, '')
    .replace(/[_\s]+/g, ' ')
    .trim();
  const unmarked = spaced.replace(COPY_MARK, '').trim() || spaced;
  return unmarked === '' ? 'Untitled' : unmarked.charAt(0).toUpperCase() + unmarked.slice(1);
}

/** Tidied names, each only once: the second `Rock` becomes `Rock 2`. */
export function uniqueTidyNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const tidy = tidyName(name).slice(0, 190);
    let free = tidy;
    for (let number = 2; taken.has(free); number++) free = `${tidy} ${number}`;
    taken.add(free);
    return free;
  });
}

/** Tidies the name of every plane of the scene. */
export function tidyNames(scene: Scene): Scene {
  const names = uniqueTidyNames(planesOf(scene).map((plane) => plane.name));
  return withPlaneList(
    scene,
    planesOf(scene).map((plane, i) => ({ ...plane, name: names[i] ?? plane.name })),
  );
}
