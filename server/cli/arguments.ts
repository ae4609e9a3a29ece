import { LIMITS, type PlaneId, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { parseRational, type Rational } from '@keen-ridge/core/units';
import { UsageFault } from './usage-fault.ts';

/** `1920x1080`. */
export function readFrameSize(text: string): { widthPx: number; heightPx: number } {
  const match = /^(\d{1,5})[x×](\d{1,5})$/.exec(text);
  const [widthPx, heightPx] = [Number(match?.[1]), Number(match?.[2])];
  const { min, max } = LIMITS.framePx;
  if (!match || Math.min(widthPx, heightPx) < min || Math.max(widthPx, heightPx) > max) {
    throw new UsageFault(`--frame ${text}: expected WIDTHxHEIGHT, each from ${min} to ${max}`);
  }
  return { widthPx, heightPx };
}

export function readRate(text: string): Rational {
  const rate = parseRational(text);
  if (!rate.ok) throw new UsageFault(`--rate ${text}: expected frames a second such as 24 or 24000/1001`);
  return rate.value;
}

export function readWhole(name: string, text: string, min: number, max: number): number {
  const value = /^\d+$/.test(text) ? Number(text) : Number.NaN;
  if (!(value >= min && value <= max))
    throw new UsageFault(`${name} ${text}: expected a whole number from ${min} to ${max}`);
  return value;
}

/** `1-24` or `7`, both ends included, within a shot. */
export function readFrames(text: string, lengthFrames: number): { first: number; last: number } {
  const match = /^(\d+)(?:-(\d+))?$/.exec(text);
  const [first, last] = [Number(match?.[1]), Number(match?.[2] ?? match?.[1])];
  if (!match || first < 1 || last < first || last > lengthFrames) {
    throw new UsageFault(`--frames ${text}: expected FIRST-LAST within 1-${lengthFrames}`);
  }
  return { first, last };
}

export function readScale(text: string): number {
  const value = Number(text);
  if (!(value > 0 && value <= 4))
    throw new UsageFault(`--scale ${text}: expected a number over 0 and up to 4`);
  return value;
}

/** `clear`, `black` or `#7f9fbf`: where the stage is empty; what is usual for the format without it. */
export function readGround(text: string | undefined): string | undefined {
  if (text === undefined || text === 'clear') return text;
  if (text === 'black') return '#000000';
  if (!/^#[0-9a-f]{6}$/.test(text))
    throw new UsageFault(`--ground ${text}: expected clear, black or a colour such as #7f9fbf`);
  return text;
}

/** Planes by their names, with a comma between them. */
export const readPlanes = (option: string, scene: Scene, names: string): PlaneId[] =>
  names.split(',').flatMap((name) => {
    const named = planesOf(scene).filter((plane) => plane.name === name.trim());
    if (named.length === 0)
      throw new UsageFault(`${option} ${names}: there is no plane called “${name.trim()}”`);
    return named.map(({ id }) => id);
  });
