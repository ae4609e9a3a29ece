import { describe, expect, it } from 'vitest';
import { testArt } from '../../testing/index.ts';
import type { ImportedPainting } from './imported-painting.ts';
import { paintedLayers } from './painted-layers.ts';
import { asPaintings, memberKeys, paintingOfSet, pictureSets } from './picture-set.ts';

const RATE = { num: 24, den: 1 };

/** A picture of its own: a tone, and how much of it is opaque from the bottom up. */
function picture(file: string, { tone = 100, share = 0.3, size = 100, art = 1 } = {}): ImportedPainting {
  const painted = { x0: 0, y0: size * (1 - share), x1: size, y1: size };
  const ref = { ...testArt(art, size, size), painted };
  const likeness = Array.from({ length: 256 }, (_, i) => (i % 4 === 3 ? 255 : tone));
  const name = file.replace(/\.[^.]*$/, '');
  const layer = { kind: 'layer' as const, key: '0', name, xPx: 0, yPx: 0, opacity: 1, hidden: false };
  return {
    file,
    widthPx: size,
    heightPx: size,
    nodes: [{ ...layer, art: ref, likeness, frames: null }],
    notKept: [],
    alphaUnsure: false,
    svgScale: null,
  };
}
/** Pictures from far to near by their place in the list: the first covers all, the others less and less. */
const stage = (names: readonly string[]) =>
  names.map((name, i) => picture(name, { tone: 30 * i, share: i === 0 ? 1 : 0.8 - 0.09 * i, art: i + 1 }));
const orderOf = (pictures: readonly ImportedPainting[]): string[][] =>
  pictureSets(pictures).map((read) =>
    read.kind === 'set' ? read.set.members.map(({ file }) => file) : [read.painting.file],
  );
const FAR_TO_NEAR = ['sky', 'moon', 'far hills', 'sea', 'mid town', 'quay', 'near boat', 'fg net'];

describe('separate pictures of one size', () => {
  const habits: readonly (readonly [string, (word: string, i: number) => string])[] = [
    ['numbered from the back', (word, i) => `0${i + 1}_${word}.png`],
    ['numbered from the front', (word, i) => `harbour_${word}_${8 - i}.png`],
    ['numbers alone, from the back', (_, i) => `Layer ${i + 1}.png`],
    ['numbers alone, from the front', (_, i) => `scene_v02_1920x1080_${String(8 - i).padStart(4, '0')}.png`],
  ];
  it.each(habits)('are one painting in the order that their names and paint say: %s', (_, name) => {
    const names = FAR_TO_NEAR.map(name);
    const shuffled = [3, 0, 7, 5, 1, 6, 2, 4].map((i) => stage(names)[i]!);
    expect(orderOf(shuffled)).toEqual([names.toReversed()]);
  });

  it('go by words where there are no numbers, what covers everything behind whatever it is called', () => {
    const names = ['salt paper.png', 'sky.png', 'far.png', 'mid.png', 'near.png', 'fg.png'];
    const [order] = orderOf(stage(names).toReversed());
    expect(order).toEqual(['fg.png', 'near.png', 'mid.png', 'far.png', 'sky.png', 'salt paper.png']);
  });

  it('put a name without a word between those that hide about as much', () => {
    const names = ['sky.png', 'far hills.png', 'sea.png', 'mid town.png', 'quay.png', 'near boat.png'];
    expect(orderOf(stage(names))).toEqual([names.toReversed()]);
  });

  it('go by what hides more where neither says anything', () => {
    const names = ['anna.png', 'zoe.png', 'mia.png'];
    expect(orderOf(stage(names))).toEqual([['mia.png', 'zoe.png', 'anna.png']]);
  });

  it('keep their own names and files, and one name of all for the painting', () => {
    const names = ['harbour_1.png', 'harbour_2.png'];
    const [painting] = asPaintings(stage(names), RATE);
    expect(painting?.file).toBe('harbour');
    expect(paintedLayers(painting!, RATE).map(({ name, file }) => [name, file])).toEqual([
      ['harbour_2', 'harbour_2.png'],
      ['harbour_1', 'harbour_1.png'],
    ]);
  });

  it('are told apart in any order where folders hold pictures of one name', () => {
    const members = [
      picture('sky.png', { art: 1 }),
      picture('sky.png', { art: 2 }),
      picture('sky.png', { art: 2 }),
    ];
    const keys = memberKeys(members);
    expect(new Set(keys).size).toBe(3);
    expect(memberKeys([members[1]!, members[2]!, members[0]!])).toEqual([keys[1], keys[2], keys[0]]);
    const { nodes } = paintingOfSet({ name: 'skies', members }, 'layers', RATE);
    expect(nodes.map(({ key }) => key)).toEqual(keys);
  });

  it('have names that a scene takes, however long those of their files are', () => {
    const long = 'n'.repeat(240);
    const [painting] = asPaintings(stage([`${long}1.png`, `${long}2.png`]), RATE);
    expect(painting?.file.length).toBeLessThanOrEqual(200);
    for (const { name } of paintedLayers(painting!, RATE)) expect(name).toHaveLength(200);
  });

  it('are apart by size, and documents with layers stay what they are', () => {
    const document = { ...picture('town.psd'), nodes: [...picture('a').nodes, ...picture('b').nodes] };
    const read = pictureSets([
      picture('a.png'),
      picture('b.png', { size: 90 }),
      document,
      picture('c.png', { tone: 200 }),
    ]);
    expect(read.map(({ kind }) => kind)).toEqual(['set', 'painting', 'painting']);
  });
});

describe('numbered pictures', () => {
  const drawing = (i: number, more = {}) =>
    picture(`walk_${i}.png`, { tone: 100 + i, share: 0.5, art: i, ...more });

  it('that are nearly the same picture are the drawings of one moving plane, a frame each', () => {
    const read = pictureSets([
      picture('sky.png', { share: 1 }),
      drawing(2),
      drawing(1),
      drawing(3),
      picture('rock.png'),
    ]);
    expect(
      read.map((one) => (one.kind === 'set' ? [one.set.kind, one.set.name] : one.painting.file)),
    ).toEqual([
      ['layers', '2 pictures'],
      ['moving', 'walk'],
    ]);
    const [, walk] = asPaintings(
      [picture('sky.png', { share: 1 }), drawing(2), drawing(1), drawing(3), picture('rock.png')],
      RATE,
    );
    const [layer] = paintedLayers(walk!, RATE);
    expect(layer?.moving?.exposures.map(({ hold, art }) => [hold, art.id])).toEqual(
      [1, 2, 3].map((i) => [1, testArt(i).id]),
    );
  });

  it('of different paint are layers, and so are those of which one covers everything', () => {
    const different = [1, 2, 3].map((i) => drawing(i, { tone: 80 * (i - 1) }));
    const grounded = [drawing(1, { share: 1 }), drawing(2), drawing(3)];
    for (const pictures of [different, grounded])
      expect(pictureSets(pictures).map((one) => one.kind === 'set' && one.set.kind)).toEqual(['layers']);
  });

  it('can be taken either way', () => {
    const [read] = pictureSets([1, 2, 3].map((i) => drawing(i)));
    if (read?.kind !== 'set') throw new Error('no set');
    expect(paintingOfSet(read.set, 'layers', RATE).nodes).toHaveLength(3);
    expect(paintingOfSet(read.set, 'moving', RATE).nodes).toHaveLength(1);
  });

  it('of different sizes, or with gaps, are no drawings of one thing', () => {
    const gap = [drawing(1), drawing(2), drawing(4)];
    expect(pictureSets(gap).map((one) => one.kind === 'set' && one.set.kind)).toEqual(['layers']);
    expect(pictureSets([drawing(1), drawing(2, { size: 90 }), drawing(3, { size: 80 })])).toHaveLength(3);
  });
});
