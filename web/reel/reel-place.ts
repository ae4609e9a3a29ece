/** Where a reel stands: on the slate of a shot, in the shot, or behind the last; and whether it goes on. */
export interface ReelPlace {
  readonly index: number;
  readonly on: 'slate' | 'shot' | 'end';
  readonly playing: boolean;
}

export const REEL_START: ReelPlace = { index: 0, on: 'slate', playing: true };

/** The slate of a shot, the nearest that there is. */
export const atShot = (place: ReelPlace, index: number, count: number): ReelPlace => ({
  ...place,
  index: Math.min(count - 1, Math.max(0, index)),
  on: 'slate',
});

/** What follows what has just been shown; behind the last shot it stops. */
export function afterShown(place: ReelPlace, count: number): ReelPlace {
  if (place.on === 'slate') return { ...place, on: 'shot' };
  return place.index + 1 < count
    ? atShot(place, place.index + 1, count)
    : { ...place, on: 'end', playing: false };
}

/** Held, or going on where it was held; from behind the last it begins again. */
export const toggled = (place: ReelPlace): ReelPlace =>
  place.on === 'end' ? REEL_START : { ...place, playing: !place.playing };
