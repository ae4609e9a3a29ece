import type { Scene } from '@keen-ridge/core/scene';
import { keysOf, planesOf } from '@keen-ridge/core/scene/records';
import { readScene } from '@keen-ridge/core/staging/check';
import { shownArts } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { edgeGaps } from '@keen-ridge/core/survey';
import { lampFlicker, paintRailwayFiles, railwayScene } from '@keen-ridge/demo';
import { beforeAll, describe, expect, it } from 'vitest';
import { demoReader } from '../testing/demo-reader.ts';

let scene: Scene;
let demo: Awaited<ReturnType<typeof demoReader>>;

beforeAll(async () => {
  demo = await demoReader();
  const files = await paintRailwayFiles();
  const layers = await demo.read(files.psd);
  const [light] = await demo.read(files.lamp);
  const [pine] = await demo.read(files.pine);
  scene = railwayScene({
    layers,
    flicker: lampFlicker(light!),
    pine: { ...pine!, name: 'Pine' },
  });
}, 240_000);

describe('the second demo shot', () => {
  it('uses a card, a moving plane, and one shelf piece twice', () => {
    expect(readScene(scene).ok).toBe(true);
    const kinds = planesOf(scene).map(({ content }) => content.kind);
    expect(kinds.filter((kind) => kind === 'card')).toHaveLength(1);
    expect(kinds.filter((kind) => kind === 'moving')).toHaveLength(1);
    const pines = planesOf(scene)
      .filter(({ name }) => name.startsWith('Pine'))
      .map(({ content }) => shownArts(content)[0]?.id);
    expect([pines.length, new Set(pines).size]).toEqual([2, 1]);
    expect(new Set(planesOf(scene).map(({ group }) => group))).toEqual(new Set([null, 'Railway', 'Far']));
  });

  it('rises, and has no hole on the way; its card and cliff never run out', () => {
    expect(keysOf(scene.camera.panY).map(({ value }) => Math.sign(value))).toEqual([1, -1]);
    expect(keysOf(scene.camera.panX).every(({ value }) => value === 0)).toBe(true);
    for (const frame of [1, 50, 90, 144]) {
      const pixels = demo.rendered(scene, frame);
      let holes = 0;
      for (let i = 3; i < pixels.length; i += 4) if ((pixels[i] as number) < 254) holes += 1;
      expect({ frame, holes }).toEqual({ frame, holes: 0 });
    }
    const card = planesOf(scene).find(({ name }) => name === 'Dusk card');
    expect(card && edgeGaps(scene, card)).toEqual([]);
  });

  it('flickers: the lamp changes every three frames', () => {
    const lamp = planesOf(scene).find(({ name }) => name === 'Lamp flicker')!;
    const shown = (frame: number) =>
      framePlan(scene, frame).planes.find((plane) => plane.planeId === lamp.id)?.shown;
    const drawings = Array.from({ length: 18 }, (_, i) => JSON.stringify(shown(i + 1)));
    drawings.forEach((drawing, i) => {
      // Each is held for three frames, and the next three show another.
      expect([i, drawing === drawings[i - (i % 3)]]).toEqual([i, true]);
      expect([i, drawing === drawings[i + 3]]).toEqual([i, false]);
    });
    expect(new Set(drawings).size).toBe(6);
  });
});
