import type { Rational } from '../../units/index.ts';
import { type Sway, swayAt } from './sway.ts';

/** A light that flickers: seeded, band-limited as a sway is, and as it may loop. */
export interface Flicker {
  readonly on: boolean;
  /** Share of the light that it loses at most, 0 to 1. */
  readonly amount: number;
  readonly frequencyHz: number;
  readonly seed: number;
  readonly loops: boolean;
}

/** Share of a light that is left at `frame`, from 1 − amount to 1: 1 − amount·(1 − w)/2 with w the waves of a sway of amplitude 1. */
export function flickerAt(
  { on, amount, frequencyHz, seed, loops }: Flicker,
  frame: number,
  lengthFrames: number,
  rate: Rational,
): number {
  if (!on || amount === 0) return 1;
  const wave = swayAt(swayLike(frequencyHz, seed, loops), 'panX', frame, lengthFrames, rate);
  return 1 - (amount * (1 - Math.min(1, Math.max(-1, wave)))) / 2;
}

/** The sway whose waves a flicker has. Waves are remembered by the sway itself, so the same one is given for the same numbers. */
const sways = new Map<string, Sway>();
const MOST_SWAYS = 256;

function swayLike(frequencyHz: number, seed: number, loops: boolean): Sway {
  const name = `${frequencyHz} ${seed} ${loops}`;
  const known = sways.get(name);
  if (known) return known;
  if (sways.size >= MOST_SWAYS) sways.clear();
  const made: Sway = {
    on: true,
    amplitude: { panX: 1, panY: 0, truck: 0, roll: 0 },
    frequencyHz,
    seed,
    fadeInFrames: 0,
    fadeOutFrames: 0,
    loops,
  };
  sways.set(name, made);
  return made;
}
