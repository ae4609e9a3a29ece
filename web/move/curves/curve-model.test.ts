import { setChannelValue } from '@keen-ridge/core/edits/keys';
import { packHex, unpackColour } from '@keen-ridge/core/paint';
import { newScene } from '@keen-ridge/core/scene';
import { shownValueAt } from '@keen-ridge/core/staging';
import { describe, expect, it } from 'vitest';
import { drawableChannels, valueCurves } from './curve-model.ts';

const airColour = { on: 'camera', name: 'airColour' } as const;
const blank = newScene({ widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 11 });
const keyed = [
  [1, '#ff0000'],
  [11, '#0000ff'],
].reduce((scene, [frame, colour]) => {
  const set = setChannelValue(scene, airColour, packHex(colour as string), {
    frame: frame as number,
    keying: true,
  });
  return set;
}, blank);

describe('a colour that is keyed', () => {
  it('is drawn as its three lights, from the one colour to the other as it is seen between', () => {
    expect(drawableChannels(keyed)).toEqual([airColour]);
    const curves = valueCurves(keyed, [airColour]);
    expect(curves.map(({ values }) => [values[0], values[10]])).toEqual([
      [255, 0],
      [0, 0],
      [0, 255],
    ]);
    const between = unpackColour(shownValueAt(keyed, airColour, 6));
    expect(curves.map(({ values }) => values[5]! / 255)).toEqual([...between]);
    // Halfway in OKLab, which is not half of each light.
    expect(Math.abs(curves[0]!.values[5]! - 127.5)).toBeGreaterThan(5);
  });
});
