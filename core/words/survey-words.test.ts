import { expect, it } from 'vitest';
import { channelId } from '../staging/index.ts';
import { testPlaneId, testScene } from '../testing/index.ts';
import { cureWords } from './index.ts';

const names = { plane: (id: string) => id, channel: () => 'Pan E–W' };
const scene = testScene([]);

it.each([
  [-33.2, 'End Pan E–W at −33'],
  [0, 'End Pan E–W at 0'],
  [1200, 'End Pan E–W at +1,200'],
])('a cure says its number with its sign: %d', (value, words) => {
  const channel = channelId({ on: 'camera', name: 'panX' });
  expect(cureWords({ kind: 'stop', channel, value, scene }, names)).toBe(words);
});

it('what brings a plane nearer has a minus that is one', () => {
  const cure = { kind: 'together', withId: testPlaneId('wall'), bySpx: -240, scene } as const;
  expect(cureWords(cure, names)).toBe('To the depth of wall: −240');
});
