import { describe, expect, it } from 'vitest';
import { parseExpression } from './expression.ts';
import { parseRational, rational, rationalText } from './rational.ts';

describe('typed numbers', () => {
  it.each([
    ['1920/2', {}, 960],
    ['−12.5', {}, -12.5],
    ['1,390 px', {}, 1390],
    ['2*(3+4)', {}, 14],
    ['1.5s', { framesPerSecond: 24 }, 36],
    ['3f', { framesPerSecond: 24 }, 3],
    ['1s+12', { framesPerSecond: 24 }, 36],
    ['50%', { hundredPercent: 1920 }, 960],
    ['-(4)', {}, -4],
    ['2 × 8', {}, 16],
  ])('reads %s', (text, context, value) => {
    expect(parseExpression(text, context)).toEqual({ ok: true, value });
  });

  it.each([
    ['', 'empty'],
    ['abc', 'not-a-number'],
    ['1+', 'not-a-number'],
    ['(1', 'not-a-number'],
    ['3 3/', 'not-a-number'],
    ['1/0', 'divided-by-zero'],
    ['2s', 'unknown-unit'],
    ['5kg', 'unknown-unit'],
  ] as const)('refuses %j as %s', (text, fault) => {
    expect(parseExpression(text)).toEqual({ ok: false, error: fault });
  });
});

describe('rates', () => {
  it.each([
    ['24', 24, 1],
    ['12.5', 25, 2],
    ['23.976', 24_000, 1001],
    ['30000/1001', 30_000, 1001],
  ])('reads %s', (text, num, den) => {
    expect(parseRational(text)).toEqual({ ok: true, value: { num, den } });
  });

  it.each(['', '0', '-24', '24fps', '1/0', '24.12345'])('refuses %j', (text) => {
    expect(parseRational(text).ok).toBe(false);
  });

  it('says broadcast rates as people do, and reduces', () => {
    expect(rationalText({ num: 24_000, den: 1001 })).toBe('23.976');
    expect(rational(50, 2)).toEqual({ num: 25, den: 1 });
    expect(() => rational(0)).toThrow(RangeError);
  });
});
