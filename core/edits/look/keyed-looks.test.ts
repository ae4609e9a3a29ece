import { interpolate as between, differenceEuclidean } from 'culori';
import { describe, expect, it } from 'vitest';
import { stageCsv } from '../../export/stage-data/index.ts';
import { hexOfPacked, matchingGrade, packHex, srgbOfHex, unpackColour } from '../../paint/index.ts';
import type { Scene } from '../../scene/index.ts';
import { keysOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { type ChannelRef, channelId, shownValueAt } from '../../staging/index.ts';
import { shotLooksAt } from '../../staging/looks/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { flickerAt } from '../../timing/moves/index.ts';
import { clearChannel, easeSelected, setChannelMuted, setChannelValue } from '../keys/index.ts';
import { setPlaneMount } from '../planes/index.ts';
import { setAir, setFilter } from './at-rest.ts';
import { crossToLook, fadeIn, fadeOut } from './fade.ts';
import { addCardBeforeCamera, addLamp } from './lamp.ts';
import { setFlicker } from './looks.ts';
import { lookTakenFrom, pasteLook } from './take-along.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const scene = testScene([testPlane({ id: A }), testPlane({ id: B, depthSpx: 600 })]);
const camera = (name: string): ChannelRef => ({ on: 'camera', name }) as ChannelRef;
const own = (name: string, plane = A): ChannelRef => ({ on: 'plane', plane, name }) as ChannelRef;
const key = (of: Scene, ref: ChannelRef, frame: number, value: number) => {
  const keyed = setChannelValue(of, ref, value, { frame, keying: true });
  return easeSelected(keyed, new Map([[channelId(ref), new Set([frame])]]), EASE_PRESETS.linear);
};

describe('colours that are keyed', () => {
  it('ease straight through OKLab, as culori 4 mixes them', () => {
    const apart = differenceEuclidean('oklab');
    for (const [from, to] of [
      ['#1c2a44', '#ffcf87'],
      ['#d94f70', '#2f8f6b'],
      ['#000000', '#ffffff'],
    ] as const) {
      const keyed = key(
        key(scene, camera('airColour'), 1, packHex(from)),
        camera('airColour'),
        101,
        packHex(to),
      );
      const theirs = between([from, to], 'oklab');
      for (const frame of [1, 20, 51, 77, 101]) {
        const [r, g, b] = unpackColour(shownValueAt(keyed, camera('airColour'), frame));
        expect(apart({ mode: 'rgb', r, g, b }, theirs((frame - 1) / 100))).toBeLessThan(1e-3);
      }
    }
  });

  it('are stored by their names, shift by a step in OKLab, rest again when their keys are cleared', () => {
    const tint = own('tint');
    const keyed = key(key(scene, tint, 1, packHex('#ff8800')), tint, 40, packHex('#0044ff'));
    expect(readScene(JSON.parse(JSON.stringify(keyed)))).toEqual({ ok: true, value: keyed });
    expect(keyed.planes[A]?.moves.tint?.keys[40]?.value).toBe('#0044ff');
    const shifted = setChannelValue(keyed, tint, packHex('#ffffff'), { frame: 1, keying: false });
    expect(hexOfPacked(shownValueAt(shifted, tint, 1))).toBe('#ffffff');
    expect(keysOf(shifted.planes[A]!.moves.tint!)).toHaveLength(2);
    const cleared = clearChannel(keyed, tint, 40);
    expect(cleared.planes[A]).toMatchObject({ moves: {}, grade: { tint: '#0044ff' } });
  });
});

describe('looks that are keyed', () => {
  it('reach the picture frame by frame: half way between 100 % and 0 it is half as bright', () => {
    const keyed = key(key(scene, own('brightness'), 1, 1), own('brightness'), 41, 0);
    const matrix = (frame: number) =>
      framePlan(keyed, frame).planes.find(({ planeId }) => planeId === A)!.look.matrix;
    expect(matrix(1)).toBeNull();
    expect(matrix(21)).toEqual([0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5].map((v) => expect.closeTo(v, 9)));
    expect(matrix(41)![0]).toBe(0);
  });

  it('air that comes in thickens evenly: in the middle one over the visibility is half of what it will be', () => {
    const hazy = setAir(scene, { colour: '#8899aa', visibilitySpx: 1e9 });
    const keyed = key(key(hazy, camera('visibility'), 1, 1e9), camera('visibility'), 101, 4000);
    expect(1 / shownValueAt(keyed, camera('visibility'), 51)).toBeCloseTo(1 / 8000, 9);
    expect(shotLooksAt(keyed, 1).air).toBeNull();
    expect(shotLooksAt(keyed, 101).air?.visibilitySpx).toBe(4000);
  });

  it('rest where nothing is keyed: a change with Keying off is a part of the air or the filter', () => {
    const off = { frame: 9, keying: false };
    const changed = setChannelValue(
      setChannelValue(scene, camera('glow'), 0.4, off),
      camera('visibility'),
      9000,
      off,
    );
    expect(changed.looks).toBeUndefined();
    expect(changed).toMatchObject({ filter: { glow: 0.4 }, air: { visibilitySpx: 9000 } });
    expect(
      setChannelMuted(key(changed, camera('glow'), 30, 1), camera('glow'), true).looks?.glow?.muted,
    ).toBe(true);
  });

  it('stand in the CSV of every frame, colours by name', () => {
    const keyed = key(
      key(scene, camera('airColour'), 1, packHex('#102030')),
      camera('airColour'),
      3,
      packHex('#102030'),
    );
    const [titles, first] = [...stageCsv(keyed)].map((line) => line.trimEnd().split(','));
    expect(titles).toContain('visibility');
    expect(first?.[titles!.indexOf('airColour')]).toBe('#102030');
    expect(titles).toContain('a softEdge');
  });
});

describe('fades', () => {
  it('go to black over the last frames and come from it over the first, what rides on the camera with them', () => {
    const ridden = setPlaneMount(scene, B, { on: 'camera' }, 1);
    if (!ridden.ok) throw new Error(ridden.error);
    const out = fadeOut(fadeIn(setFilter(ridden.value, { brightness: 0.8 }), 24), 24);
    const at = (frame: number, ref = camera('brightness')) => shownValueAt(out, ref, frame);
    expect([1, 13, 25, 60, 96, 108, 120].map((frame) => at(frame))).toEqual(
      [0, 0.4, 0.8, 0.8, 0.8, 0.4, 0].map((v) => expect.closeTo(v, 9)),
    );
    expect([1, 60, 120].map((frame) => at(frame, own('brightness', B)))).toEqual([0, 1, 0]);
    expect(keysOf(out.looks!.brightness!)).toHaveLength(4);
    expect(out.planes[A]?.moves.brightness).toBeUndefined();
  });

  it('cross to the look of another frame: what differs is keyed, and nothing else', () => {
    const dusk = key(
      key(setFilter(scene, { glow: 0.3 }), own('saturation'), 1, 1),
      own('saturation'),
      30,
      0.2,
    );
    const back = crossToLook(dusk, { like: 1, at: 90, over: 20 });
    expect([30, 70, 90, 120].map((frame) => shownValueAt(back, own('saturation'), frame))).toEqual(
      [0.2, 0.2, 1, 1].map((v) => expect.closeTo(v, 9)),
    );
    expect(back.looks).toBeUndefined();
    expect(crossToLook(dusk, { like: 31, at: 90, over: 20 })).toBe(dusk);
  });
});

describe('looks that are taken along', () => {
  it('give another plane, and another shot, what they were taken from', () => {
    const off = { frame: 1, keying: false };
    const graded = setChannelValue(
      setChannelValue(scene, own('tint'), packHex('#ffcc88'), off),
      own('blur'),
      6,
      off,
    );
    const look = lookTakenFrom(graded, A, 1)!;
    const given = pasteLook(graded, look, new Set([B]), off);
    expect(given.planes[B]?.grade).toEqual(graded.planes[A]?.grade);
    const lit = setFilter(setAir(scene, { colour: '#112233', visibilitySpx: 5000 }), { vignette: 0.3 });
    const other = pasteLook(testScene([]), lookTakenFrom(lit, 'camera', 1)!, new Set(), off);
    expect([other.air, other.filter]).toEqual([lit.air, lit.filter]);
    expect(pasteLook(lit, lookTakenFrom(lit, 'camera', 1)!, new Set(), { frame: 40, keying: true })).toBe(
      lit,
    );
  });

  it('match one colour to another, to half a level of the tint', () => {
    for (const [from, to] of [
      ['#804020', '#6a5a30'],
      ['#404040', '#e0c080'],
      ['#f0f0f0', '#203050'],
    ] as const) {
      const { brightness, tint, leftLevels } = matchingGrade(srgbOfHex(from), srgbOfHex(to));
      const stop = srgbOfHex(tint);
      const seen = srgbOfHex(from).map((v, c) => Math.min(1, v * brightness * stop[c]!));
      const off = seen.map((v, c) => Math.abs(v - srgbOfHex(to)[c]!) * 255);
      expect(Math.max(...off)).toBeLessThanOrEqual(1);
      expect(leftLevels).toBeLessThanOrEqual(1);
    }
    // Black has no light to make anything of.
    expect(matchingGrade([0, 0, 0], [1, 1, 1]).leftLevels).toBeGreaterThan(200);
  });
});

describe('lights', () => {
  it('a lamp is a soft round card laid over by screening, where it is put', () => {
    const lit = addLamp(scene, {
      id: testPlaneId('lamp'),
      name: 'Lamp',
      colour: '#ffcf87',
      widthSpx: 300,
      depthSpx: 600,
      at: { x: 500, y: 300 },
      frame: 1,
    });
    const { artToFrame, mode } = framePlan(lit, 1).planes.find(({ planeId }) => planeId === 'lamp')!;
    expect(mode).toBe('screen');
    expect([artToFrame!.a * 150 + artToFrame!.e, artToFrame!.d * 150 + artToFrame!.f]).toEqual([
      expect.closeTo(500, 6),
      expect.closeTo(300, 6),
    ]);
    expect(readScene(lit).ok).toBe(true);
  });

  it('flickers within its bounds, again the same for the same seed, closed where it loops, and off without a trace', () => {
    const rate = { num: 24, den: 1 };
    const flicker = { on: true, amount: 0.4, frequencyHz: 5, seed: 7, loops: true };
    const values = Array.from({ length: 120 }, (_, i) => flickerAt(flicker, i + 1, 120, rate));
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0.6);
    expect(Math.max(...values)).toBeLessThanOrEqual(1);
    expect(Math.max(...values) - Math.min(...values)).toBeGreaterThan(0.3);
    expect(flickerAt(flicker, 121, 120, rate)).toBeCloseTo(values[0]!, 9);
    expect(flickerAt({ ...flicker, on: false }, 9, 120, rate)).toBe(1);
    const lit = setFlicker(scene, new Set([A]), flicker);
    expect(framePlan(lit, 30).planes.find(({ planeId }) => planeId === A)!.opacity).toBe(values[29]);
  });

  it('a card before the camera lands in front of what is there, however near that stands', () => {
    const close = testScene([testPlane({ id: A, depthSpx: -1800 })]);
    const card = addCardBeforeCamera(close, {
      id: testPlaneId('card'),
      name: 'Card',
      paint: { kind: 'solid', colour: '#000000', opacity: 1 },
    });
    const { planes, widthPx } = framePlan(card, 1);
    expect(planes.map(({ planeId }) => planeId)).toEqual([A, 'card']);
    const { artToFrame, shown } = planes[1]!;
    const width = shown.kind === 'paths' ? shown.facts.widthPx : 0;
    expect(artToFrame!.e).toBeLessThanOrEqual(0);
    expect(artToFrame!.e + artToFrame!.a * width).toBeGreaterThanOrEqual(widthPx);
  });
});
