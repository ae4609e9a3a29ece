import type { Drag, DragPoint } from './pointer/drag.ts';

/** A value that is tried, seen at once, and then kept or dropped. */
export interface Trial<T> {
  update(value: T): void;
  keep(): void;
  drop(): void;
}

export type BeginTrial<T> = () => Trial<T>;

/** A value that is set at once, without being tried before. */
export function setOnce<T>(begin: BeginTrial<T>, value: T): void {
  const trial = begin();
  trial.update(value);
  trial.keep();
}

/** A trial of something by a part of it. */
export const trialOf =
  <Part, Whole>(begin: BeginTrial<Whole>, whole: (part: Part) => Whole): BeginTrial<Part> =>
  () => {
    const trial = begin();
    return {
      update: (part) => trial.update(whole(part)),
      keep: () => trial.keep(),
      drop: () => trial.drop(),
    };
  };

/** A drag whose place is a value that is tried: the trial begins when the pointer leaves the slack. */
export function trialDrag<T>(begin: BeginTrial<T>, valueAt: (to: DragPoint) => T): Drag {
  let trial: Trial<T> | null = null;
  return {
    move: (to) => {
      trial ??= begin();
      trial.update(valueAt(to));
    },
    keep: () => trial?.keep(),
    drop: () => trial?.drop(),
  };
}

/** A trial of a setting that is no edit: set as it is tried, and back where it was when it is dropped. */
export const settingTrial =
  <T>(now: T, set: (value: T) => void): BeginTrial<T> =>
  () => ({ update: set, keep: () => undefined, drop: () => set(now) });
