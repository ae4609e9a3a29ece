import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { setChannelValue } from '../../edits/keys/index.ts';
import { addPin } from '../../edits/planes/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import type { PinId, Scene } from '../../scene/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { stageCsv, stageDataJsonSchema, stageDataSchema, stageJson } from './index.ts';

const NEAR = testPlaneId('near');
const FAR = testPlaneId('far');

function shot(): Scene {
  const still = testScene(
    [
      testPlane({ id: NEAR, name: 'Post, left', depthSpx: -300 }),
      testPlane({ id: FAR, name: 'Hill', depthSpx: 900 }),
    ],
    { lengthFrames: 12 },
  );
  const key = (scene: Scene, frame: number, value: number) =>
    setChannelValue(scene, { on: 'camera', name: 'truck' }, value, { frame, keying: true });
  return addPin(key(key(still, 1, 0), 12, 1700), NEAR, 'p' as PinId, 'Tip', { x: 30, y: 10 });
}

const read = (
  scene: Scene,
  ...rest: Parameters<typeof stageJson> extends [unknown, ...infer R] ? R : never
) => stageDataSchema.parse(JSON.parse([...stageJson(scene, ...rest)].join('')));

describe('stage data', () => {
  const scene = shot();
  const data = read(scene, 'Shot 010');
  const column = (title: string) => data.columns.findIndex((one) => one.title === title) + 1;

  it('are what the frames are planned as: distance, place, speed of every plane and of its pins', () => {
    expect(data.rows).toHaveLength(12);
    let told = 0;
    for (const [i, row] of data.rows.entries()) {
      const plan = framePlan(scene, i + 1);
      expect(row[0]).toBe(i + 1);
      for (const [id, name] of [
        [NEAR, 'Post, left'],
        [FAR, 'Hill'],
      ] as const) {
        const { artToFrame, distanceSpx } = plan.planes.find(({ planeId }) => planeId === id)!;
        const at = (what: string) => row[column(`${name} ${what}`)] ?? null;
        // Once the camera has passed a plane nothing is told of it.
        expect(at('distance')).toEqual(artToFrame ? distanceSpx : null);
        for (const part of ['a', 'b', 'c', 'd', 'e', 'f'] as const) {
          if (artToFrame) expect(at(part)).toBeCloseTo(artToFrame[part], 9);
          else expect(at(part)).toBeNull();
        }
        if (id !== NEAR) continue;
        const pin = artToFrame && applyAffine(artToFrame, { x: 30, y: 10 });
        if (pin) expect(at('pin Tip x')).toBeCloseTo(pin.x, 9);
        else expect(at('pin Tip y')).toBeNull();
        told += pin ? 1 : 0;
      }
    }
    expect(told).toBeGreaterThan(5);
    expect(told).toBeLessThan(12);
  });

  it('are the same as CSV, whose titles hold a comma in quotes', () => {
    const [head, ...lines] = [...stageCsv(scene)].map((line) => line.trimEnd());
    expect(head!.startsWith('frame,panX,panY,truck')).toBe(true);
    expect(head).toContain('"Post, left pin Tip x"');
    const cells = lines.map((line) => line.split(','));
    for (const [i, row] of data.rows.entries())
      expect(cells[i]).toEqual(row.map((value) => (value === null ? '' : String(value))));
  });

  it('can be of the camera alone, or of some planes', () => {
    const camera = read(scene, 'S', { camera: true, planes: [] });
    expect(new Set(camera.columns.map(({ of }) => of))).toEqual(new Set(['camera']));
    expect([camera.planes, camera.columns.some(({ title }) => title === 'camera zoom')]).toEqual([[], true]);
    const one = read(scene, 'S', { camera: false, planes: [NEAR] });
    expect(new Set(one.columns.map(({ plane }) => plane))).toEqual(new Set([NEAR]));
    expect(one.columns.filter(({ of }) => of === 'pin')).toHaveLength(2);
  });

  it('have a published JSON Schema, the one that the validator makes', () => {
    const path = new URL('../../../docs/stage-data.schema.json', import.meta.url);
    expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(JSON.parse(JSON.stringify(stageDataJsonSchema())));
  });
});
