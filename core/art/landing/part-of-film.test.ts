import { describe, expect, it } from 'vitest';
import { testArt } from '../../testing/index.ts';
import type { ImportedPainting } from './imported-painting.ts';
import { movingLayer, partOfFilm } from './part-of-film.ts';

const film = (count: number): ImportedPainting => ({
  file: 'boat.webm',
  widthPx: 8,
  heightPx: 8,
  nodes: [
    {
      kind: 'layer',
      key: '0',
      name: 'boat',
      xPx: 0,
      yPx: 0,
      opacity: 1,
      hidden: false,
      art: testArt(1, 8, 8),
      likeness: Array(256).fill(0),
      frames: Array.from({ length: count }, (_, i) => ({ art: testArt(i + 1, 8, 8), delayMs: 40 })),
      rate: { num: 25, den: 1 },
    },
  ],
  notKept: [],
  alphaUnsure: false,
  svgScale: null,
});

describe('a part of a film', () => {
  it.each([
    [1, 5, [1, 2, 3, 4, 5]],
    [2, 3, [2, 3]],
    [4, 99, [4, 5]],
    [4, 2, [4]],
    [-3, 1, [1]],
    [9, 9, [5]],
  ])('from frame %d to %d', (first, last, wanted) => {
    const layer = movingLayer({ ...partOfFilm(film(5), first, last) });
    const [node] = partOfFilm(film(5), first, last).nodes;
    const frames = node?.kind === 'layer' ? (node.frames ?? []) : [];
    expect(frames.map(({ art }) => art.id)).toEqual(wanted.map((i) => testArt(i, 8, 8).id));
    expect(node?.kind === 'layer' && node.art.id).toBe(testArt(wanted[0]!, 8, 8).id);
    expect(layer === null).toBe(wanted.length === 1);
  });
});
