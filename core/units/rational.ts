import { fail, ok, type Result } from './result.ts';

/** An exact ratio of whole numbers, lowest terms, `den` > 0. */
export interface Rational {
  readonly num: number;
  readonly den: number;
}

const greatestCommonDivisor = (a: number, b: number): number =>
  b === 0 ? a : greatestCommonDivisor(b, a % b);

/** The ratio in lowest terms. Throws RangeError unless both are positive safe integers. */
export function rational(num: number, den = 1): Rational {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || num <= 0 || den <= 0) {
    throw new RangeError(`A rate needs two positive whole numbers, got ${num}/${den}`);
  }
  const divisor = greatestCommonDivisor(num, den);
  return { num: num / divisor, den: den / divisor };
}

export const rationalToNumber = (r: Rational): number => r.num / r.den;

/** The decimal spellings of the three broadcast rates (SMPTE ST 12-1: nominal rate × 1000/1001). */
const BROADCAST_RATES: Readonly<Record<string, Rational>> = {
  '23.976': { num: 24000, den: 1001 },
  '23.98': { num: 24000, den: 1001 },
  '29.97': { num: 30000, den: 1001 },
  '59.94': { num: 60000, den: 1001 },
};

/** Reads `24`, `12.5`, `24000/1001` or a broadcast spelling such as `23.976`. */
export function parseRational(text: string): Result<Rational, 'not-a-rate'> {
  const trimmed = text.trim();
  const broadcast = BROADCAST_RATES[trimmed];
  if (broadcast) return ok(broadcast);
  const ratio = /^(\d{1,7})\s*\/\s*(\d{1,7})$/.exec(trimmed);
  if (ratio) {
    const [num, den] = [Number(ratio[1]), Number(ratio[2])];
    return num > 0 && den > 0 ? ok(rational(num, den)) : fail('not-a-rate');
  }
  if (!/^\d{1,4}(\.\d{1,3})?$/.test(trimmed)) return fail('not-a-rate');
  const thousandths = Math.round(Number(trimmed) * 1000);
  return thousandths > 0 ? ok(rational(thousandths, 1000)) : fail('not-a-rate');
}

/** `24`, `12.5` or `23.976`: what people say. */
export function rationalText(r: Rational): string {
  return String(Math.round((r.num / r.den) * 1000) / 1000);
}
