import { leaveSo } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';

/** What of the survey's findings an artist has looked at and left so, with a note; `measured` is what it was then. */
export type Notes = readonly (readonly [finding: string, measured: number, note: string])[];

export const withNotes = (scene: Scene, notes: Notes): Scene =>
  notes.reduce((noted, [finding, measured, note]) => leaveSo(noted, finding, note, measured), scene);

const WHIP = 'near and out of mind: it may whip past';

export const QUAY_NOTES: Notes = [
  ['pace quay-1', 16.5, WHIP],
  ['pace quay-2', 11.7, WHIP],
  ['slip quay-6 quay-7', 64, 'afloat: the water moves anyway'],
];

export const RAILWAY_NOTES: Notes = [
  ['pace railway-pine', 36.5, WHIP],
  ['pace railway-pine-2', 32.5, WHIP],
  ...['railway-1', 'railway-2', 'railway-3', 'railway-4'].map(
    (plane) => [`pace ${plane}`, 21.5, 'the rise is meant to be quick'] as const,
  ),
  ['pace railway-5', 14.5, 'the rise is meant to be quick'],
];

export const CART_NOTES: Notes = [
  ['pace cart-thistles', 25, WHIP],
  ['pace cart-road', 16, 'under the wheels: it is looked past'],
  ['pace cart-sea-wall', 13.7, 'behind the pony, and it repeats'],
];

export const LOFT_NOTES: Notes = [['pace loft-rain', 70, 'rain is meant to streak']];
