import { expect, it } from 'vitest';
import { afterShown, atShot, REEL_START, type ReelPlace, toggled } from './reel-place.ts';

it('goes from slate to shot to the next slate, and stops behind the last', () => {
  const seen: ReelPlace[] = [REEL_START];
  for (let i = 0; i < 4; i++) seen.push(afterShown(seen.at(-1)!, 2));
  expect(seen.map(({ index, on, playing }) => `${index} ${on} ${playing}`)).toEqual([
    '0 slate true',
    '0 shot true',
    '1 slate true',
    '1 shot true',
    '1 end false',
  ]);
  expect(toggled(seen.at(-1)!)).toEqual(REEL_START);
});

it('goes on where it was held, in the last shot too', () => {
  const last: ReelPlace = { index: 1, on: 'shot', playing: true };
  expect(toggled(toggled(last))).toEqual(last);
  expect(atShot(toggled(last), 9, 2)).toEqual({ index: 1, on: 'slate', playing: false });
  expect(atShot(last, -1, 2).index).toBe(0);
});
