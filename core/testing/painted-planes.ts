import { setCamera } from '../edits/keys/index.ts';
import type { Plane, PlaneId, Scene } from '../scene/index.ts';
import { keysOf, recordOf } from '../scene/records/index.ts';
import { type AlphaMap, alphaMapOf } from '../survey/alpha/alpha-map.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { testArt, testArtId, testPlane, testPlaneId, testScene } from './index.ts';

/** Arts of the test, by id: how much paint each has. */
const arts = new Map<string, AlphaMap>();
let made = 0;

/** A plane whose art is painted where `paint` says so; its facts are those that the import would find. */
export function painted(
  name: string,
  [widthPx, heightPx]: readonly [number, number],
  paint: (x: number, y: number) => boolean,
  part: Partial<Plane> = {},
): Plane & { id: PlaneId } {
  const data = new Uint8Array(widthPx * heightPx);
  let [x0, y0, x1, y1] = [widthPx, heightPx, 0, 0];
  const border = { left: 0, right: 0, top: 0, bottom: 0 };
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      if (!paint(x, y)) continue;
      data[y * widthPx + x] = 255;
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x + 1), Math.max(y1, y + 1)];
      if (x === 0) border.left += 1;
      if (x === widthPx - 1) border.right += 1;
      if (y === 0) border.top += 1;
      if (y === heightPx - 1) border.bottom += 1;
    }
  made += 1;
  const id = testArtId(made + 1000);
  arts.set(id, alphaMapOf(widthPx, heightPx, { columns: widthPx, rows: heightPx, data }));
  const art = {
    ...testArt(1, widthPx, heightPx),
    id,
    painted: { x0, y0, x1, y1 },
    cutEdges: {
      left: border.left >= 0.2 * (y1 - y0),
      right: border.right >= 0.2 * (y1 - y0),
      top: border.top >= 0.2 * (x1 - x0),
      bottom: border.bottom >= 0.2 * (x1 - x0),
    },
  };
  return testPlane(
    { id: testPlaneId(name), content: { kind: 'still', art, made: null }, ...part },
    widthPx,
    heightPx,
  );
}
export const alphaOf = (id: string): AlphaMap | null => arts.get(id) ?? null;
export const whole = () => true;
export const FRAME = { widthPx: 320, heightPx: 180 };
export const shot = (planes: readonly Plane[], part: Partial<Scene> = {}): Scene =>
  testScene(planes, { frame: FRAME, homeDistanceSpx: 320, lengthFrames: 41, ...part });
/** An even pan of so many spx from the first frame to the last. */
export function panned(scene: Scene, spx: number): Scene {
  const from = setCamera(scene, { panX: 0 }, { frame: 1, keying: true });
  const to = setCamera(from, { panX: spx }, { frame: scene.lengthFrames, keying: true });
  const keys = keysOf(to.camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
  return { ...to, camera: { ...to.camera, panX: recordOf({ ...to.camera.panX, keys }) } };
}
/** Something opaque behind everything, that never ends. */
export const sky = () =>
  painted('sky', [4000, 400], whole, {
    depthSpx: 3200,
    transform: { ...testPlane({ id: testPlaneId('x') }, 4000, 400).transform, scaleX: 12, scaleY: 12 },
  });
