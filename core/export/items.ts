import type { Plane, PlaneId, Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { HANDOFF_FORMATS, type HandoffKind, SHEET_PICTURES } from './formats.ts';
import { fileStem, LONGEST_STEM, patternName } from './names.ts';
import { type ChosenPlanes, isLeftOut } from './plan-asked.ts';

/** The parts of a hand-off that say which pictures it is made of and what they are called. */
export interface Wanted {
  readonly kind: HandoffKind;
  readonly firstFrame: number;
  readonly lastFrame: number;
  /** Frames more at either end, rendered by the move as it goes on there. */
  readonly handles: number;
  readonly planes: 'together' | 'each';
  readonly names: { readonly pattern: string; readonly startAt: number | null };
  readonly take: string;
  readonly chosen: ChosenPlanes | null;
}

/** One picture of a hand-off. */
export interface HandoffItem {
  readonly frame: number;
  /** Only this plane, in place; null for all of them. */
  readonly plane: PlaneId | null;
  /** File name without ending, folders by `/`. */
  readonly name: string;
  /** The number that the frame goes by. */
  readonly number: number;
}

/** The frames of a hand-off in order, its handles too; of a sheet those that are on it. */
export function framesWanted({ kind, firstFrame, lastFrame, handles }: Wanted): number[] {
  const from = firstFrame - handles;
  const count = lastFrame - firstFrame + 1 + 2 * handles;
  if (HANDOFF_FORMATS[kind].made !== 'sheet') return Array.from({ length: count }, (_, i) => from + i);
  const shown = Math.min(SHEET_PICTURES, count);
  return Array.from({ length: shown }, (_, i) =>
    Math.round(from + (shown === 1 ? 0 : (i * (count - 1)) / (shown - 1))),
  );
}

/** The number that the first frame of all goes by: its own, or the one that is asked for. */
export const firstNumber = (wanted: Wanted): number =>
  wanted.names.startAt ?? wanted.firstFrame - wanted.handles;

/** Every picture in the order in which it is written. */
export function handoffItems(
  scene: Pick<Scene, 'planes' | 'order'>,
  shotName: string,
  wanted: Wanted,
): HandoffItem[] {
  const frames = framesWanted(wanted);
  const shift = firstNumber(wanted) - (wanted.firstFrame - wanted.handles);
  const leaves = ({ hidden, id }: Plane) => !hidden && !isLeftOut(wanted.chosen, id);
  const planes = wanted.planes === 'each' ? planesOf(scene).filter(leaves) : [null];
  const planeNames = uniqueStems(planesOf(scene));
  const places = planes.flatMap((plane) => frames.map((frame) => ({ plane, frame })));
  return places.map(({ plane, frame }) => {
    const number = frame + shift;
    const values = {
      shot: shotName,
      take: wanted.take,
      plane: plane ? (planeNames.get(plane.id) ?? '') : 'all',
      frame: number,
    };
    return { frame, plane: plane?.id ?? null, name: patternName(wanted.names.pattern, values), number };
  });
}

/** Two stems that some system would take for the same. */
const alike = (stem: string): string => stem.normalize('NFC').toLowerCase();

/**
 * Planes of one name are told apart by their place from the top; where another plane is called just that already, by
 * the next number that nobody has.
 */
function uniqueStems(planes: readonly Pick<Plane, 'id' | 'name'>[]): Map<PlaneId, string> {
  const stems = planes.map(({ name }) => fileStem(name));
  const count = new Map<string, number>();
  for (const stem of stems) count.set(alike(stem), (count.get(alike(stem)) ?? 0) + 1);
  const taken = new Set(stems.filter((stem) => count.get(alike(stem)) === 1).map(alike));
  return new Map(
    planes.map(({ id }, i) => {
      const stem = stems[i] as string;
      if (count.get(alike(stem)) === 1) return [id, stem];
      let number = i + 1;
      const numbered = () => `${stem.slice(0, LONGEST_STEM - `-${number}`.length)}-${number}`;
      while (taken.has(alike(numbered()))) number += planes.length;
      taken.add(alike(numbered()));
      return [id, numbered()];
    }),
  );
}
