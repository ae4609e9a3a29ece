import { describe, expect, it } from 'vitest';
import { setPlaneContent } from '../../edits/planes/index.ts';
import type { Content } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { exposureIndexAt, factsOf, keptArts, sceneArts, shownAt } from './shown.ts';

type Moving = Extract<Content, { kind: 'moving' }>;
const RATE = { num: 24, den: 1 };
const moving = (holds: readonly number[], part: Partial<Moving> = {}): Moving => ({
  kind: 'moving',
  exposures: holds.map((hold, i) => ({ art: testArt(i + 1), hold })),
  cycle: 'loop',
  startFrame: 1,
  rate: null,
  ...part,
});
const run = (content: Moving, from: number, to: number, rate = RATE) =>
  Array.from({ length: to - from + 1 }, (_, i) => exposureIndexAt(content, from + i, rate)).join('');

describe('moving planes', () => {
  it('hold each exposure as long as it says, and loop', () => {
    expect(run(moving([2, 1, 3]), 1, 13)).toBe('0012220012220');
  });

  it('run once and stay on the last, or there and back without holding the ends twice', () => {
    expect(run(moving([2, 1], { cycle: 'once' }), 1, 6)).toBe('001111');
    expect(run(moving([1, 1, 1, 1], { cycle: 'there-and-back' }), 1, 13)).toBe('0123210123210');
    expect(run(moving([2, 1], { cycle: 'there-and-back' }), 1, 6)).toBe('001001');
  });

  it('begin where they are told to, and show the first before', () => {
    expect(run(moving([1, 1, 1], { startFrame: 4 }), 1, 8)).toBe('00001201'.slice(0, 8));
  });

  it('map their own rate to the shot without drifting', () => {
    expect(run(moving([1, 1, 1], { rate: { num: 12, den: 1 } }), 1, 8)).toBe('00112200');
    // 24000/1001 against itself is one to one over ten thousand frames.
    const own = moving(Array(100).fill(1), { rate: { num: 24_000, den: 1001 } });
    for (let frame = 1; frame <= 10_000; frame += 97)
      expect(exposureIndexAt(own, frame, { num: 24_000, den: 1001 })).toBe((frame - 1) % 100);
  });

  it('need the art of all their exposures', () => {
    expect(keptArts(moving([1, 1, 1])).map(({ id }) => id)).toEqual([1, 2, 3].map((n) => testArt(n).id));
  });
});

describe('what a plane shows', () => {
  it('of a card is a path of its size, whose edges are all cut', () => {
    const card: Content = {
      kind: 'card',
      widthPx: 300,
      heightPx: 200,
      paint: { kind: 'solid', colour: '#112233', opacity: 1 },
    };
    expect(factsOf(card)).toMatchObject({ widthPx: 300, heightPx: 200, cutEdges: { left: true } });
    expect(shownAt(card, 1, RATE)).toMatchObject({
      kind: 'paths',
      paths: [{ path: 'M0 0 L300 0 L300 200 L0 200 L0 0 Z' }],
    });
  });

  it('of shapes ends where the shapes end', () => {
    const paint = { kind: 'solid', colour: '#112233', opacity: 1 } as const;
    const shapes: Content = {
      kind: 'shapes',
      widthPx: 900,
      heightPx: 400,
      shapes: [{ id: 'a', path: 'M10 20 L50 20 L50 90 Z', paint }],
    };
    expect(factsOf(shapes).painted).toEqual({ x0: 10, y0: 20, x1: 50, y1: 90 });
    expect(factsOf({ ...shapes, shapes: [] }).painted).toBeNull();
  });

  it('names every image of the scene once, those that others were made from too', () => {
    const a = testPlane({ id: testPlaneId('a') });
    const made = { kind: 'recoloured', from: testArt(9), hueDeg: 20, saturation: 1, brightness: 1 } as const;
    const b = testPlane({ id: testPlaneId('b'), content: { kind: 'still', art: testArt(2), made } });
    expect(sceneArts(testScene([a, b, a])).map(({ id }) => id)).toEqual([1, 2, 9].map((n) => testArt(n).id));
    const recipe = { steps: [], featherPx: 0, fill: true, copies: [] };
    const step = { cutId: 'one', part: 'left', atPx: [0, 0] as [number, number], recipe } as const;
    const cut = {
      kind: 'cut',
      ...step,
      cutId: 'two',
      from: testArt(8),
      before: [{ ...step, from: testArt(7) }],
    } as const;
    const c = testPlane({
      id: testPlaneId('c'),
      content: { kind: 'still', art: testArt(6), made: { ...cut, before: [...cut.before] } },
    });
    expect(sceneArts(testScene([c])).map(({ id }) => id)).toEqual([6, 8, 7].map((n) => testArt(n).id));
  });

  it('keeps its middle when content of another size takes its place', () => {
    const plane = testPlane({ id: testPlaneId('a') }, 400, 300);
    const scene = setPlaneContent(testScene([plane]), plane.id, {
      kind: 'still',
      art: testArt(2, 600, 100),
      made: null,
    });
    expect(planesOf(scene)[0]?.transform).toMatchObject({
      anchorXArtPx: 300,
      anchorYArtPx: 50,
      xSpx: 0,
      ySpx: 0,
    });
  });
});
