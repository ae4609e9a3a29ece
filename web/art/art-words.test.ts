import { testArt, testPlane, testPlaneId } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { nameFaults } from '../edits/art-edits.ts';
import { cssOfPaint } from '../planes/plane-thumbnail.tsx';
import { contentWords } from './content-words.ts';

const named = (...names: string[]) => names.map((name, i) => testPlane({ id: testPlaneId(`${i}`), name }));

describe('names that need a look', () => {
  it('are those used twice and those that say nothing', () => {
    expect(nameFaults(named('Rock', 'Sky', 'Rock', 'Layer 3', 'ebene 12', 'Copy'))).toEqual({
      twice: ['Rock'],
      saysNothing: ['Layer 3', 'ebene 12', 'Copy'],
    });
    const empty = ['Untitled-1', 'final_FINAL', 'New (2)', 'img_003', 'x', '7'];
    expect(nameFaults(named(...empty)).saysNothing).toEqual(empty);
    expect(nameFaults(named('Final cliff', '空', 'New moon')).saysNothing).toEqual([]);
    expect(nameFaults(named('Rock', 'Rock 2', 'Layered cliff'))).toEqual({ twice: [], saysNothing: [] });
  });
});

describe('words for what a plane holds', () => {
  const paint = { kind: 'solid', colour: '#102030', opacity: 0.5 } as const;
  const stops = [
    { at: 0, colour: '#000000', opacity: 1 },
    { at: 1, colour: '#ffffff', opacity: 0 },
  ];

  it('tell every kind apart', () => {
    const art = testArt(1);
    const made = { kind: 'recoloured', from: art, hueDeg: 0, saturation: 1, brightness: 1 } as const;
    const size = { widthPx: 10, heightPx: 10 };
    expect([
      contentWords({ kind: 'still', art, made: null }),
      contentWords({ kind: 'still', art, made }),
      contentWords({
        kind: 'moving',
        exposures: [{ art, hold: 2 }],
        cycle: 'loop',
        startFrame: 1,
        rate: null,
      }),
      contentWords({ kind: 'card', ...size, paint }),
      contentWords({
        kind: 'card',
        ...size,
        paint: { kind: 'radial', centreX: 0, centreY: 0, radius: 1, space: 'srgb', stops },
      }),
      contentWords({ kind: 'shapes', ...size, shapes: [] }),
    ]).toEqual(['art', 'recoloured', 'moving, 1', 'card', 'radial card', '0 shapes']);
  });

  it('give the browser the same paint in CSS', () => {
    expect(cssOfPaint(paint)).toBe('#10203080');
    expect(cssOfPaint({ kind: 'linear', angleDeg: 30, space: 'oklab', stops })).toBe(
      'linear-gradient(30deg in oklab, #000000ff 0%, #ffffff00 100%)',
    );
  });
});
