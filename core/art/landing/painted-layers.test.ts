import { describe, expect, it } from 'vitest';
import { testArt } from '../../testing/index.ts';
import { type ImportedNode, type ImportedPainting, importedPaintingSchema } from './imported-painting.ts';
import { paintedLayers } from './painted-layers.ts';

const likeness = Array<number>(256).fill(0);
const layer = (name: string, part: Partial<Extract<ImportedNode, { kind: 'layer' }>> = {}): ImportedNode => ({
  kind: 'layer',
  key: name,
  name,
  xPx: 3,
  yPx: 4,
  opacity: 0.5,
  hidden: false,
  art: testArt(1),
  likeness,
  frames: null,
  ...part,
});
const group = (name: string, children: ImportedNode[], hidden = false): ImportedNode => ({
  kind: 'group',
  key: name,
  name,
  opacity: 0.5,
  hidden,
  children,
});
const painting = (file: string, nodes: ImportedNode[], size = 100): ImportedPainting => ({
  file,
  widthPx: size,
  heightPx: size,
  nodes,
  notKept: [],
  alphaUnsure: false,
  svgScale: null,
});
const RATE = { num: 24, den: 1 };

describe('layers of a painting', () => {
  it('take on what their groups say, at any depth, and survive the wire', () => {
    const read = painting('quay.psd', [
      group('Quay', [layer('Post'), group('Wall', [layer('Stone')], true)]),
    ]);
    expect(importedPaintingSchema.parse(JSON.parse(JSON.stringify(read)))).toEqual(read);
    expect(
      paintedLayers(read, RATE).map(({ name, group: g, opacity, hidden, file }) => [
        name,
        g,
        opacity,
        hidden,
        file,
      ]),
    ).toEqual([
      ['Post', 'Quay', 0.25, false, 'quay.psd'],
      ['Stone', 'Quay / Wall', 0.125, true, 'quay.psd'],
    ]);
  });

  it('hold their pictures for as many frames of the shot as their delays last', () => {
    const frames = [1, 2].map((n) => ({ art: testArt(n), delayMs: 250 }));
    const [walk] = paintedLayers(painting('walk.gif', [layer('walk', { frames })]), { num: 12, den: 1 });
    expect(walk?.moving?.exposures.map(({ hold }) => hold)).toEqual([3, 3]);
  });
});
