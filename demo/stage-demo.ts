import { type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera, setChannelValue } from '@keen-ridge/core/edits/keys';
import { addLamp, focusOn } from '@keen-ridge/core/edits/look';
import { addPlanes, setPlaneMount } from '@keen-ridge/core/edits/planes';
import { applyAffine } from '@keen-ridge/core/geometry';
import { newScene, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { QUAY_NOTES, withNotes } from './left-so.ts';

export const DEMO_PRODUCTION = 'Salt Lanterns';
export const DEMO_SHOT = '010 Quay at lamp-lighting';

/** Depths of the layers by name, stage px. The quay ground and the figure stand on the datum. */
const DEPTHS_SPX: Readonly<Record<string, number>> = {
  'Ropes and nets': -909,
  'Mooring posts': -529,
  Lamplighter: 0,
  'Quay ground': 0,
  'Quay houses': 366,
  'Moored boats': 823,
  'Harbour water': 1390,
  'Island and light': 3727,
  'Far headland': 9374,
  'Sky card': 23_680,
};

/** The shot as an artist would leave it: layers pushed back with the picture held, a pan and a small truck, both eased. */
export function demoScene(layers: readonly PaintedLayer[]): Scene {
  const empty = newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 120 });
  const planes = layers.map((layer, i) => planeFromLayer(planeIdSchema.parse(`quay-${i + 1}`), layer));
  const flat = addPlanes(empty, planes);
  const staged = planes.reduce(
    (scene, { id, name }) =>
      setPlaneDepth(scene, id, { depthSpx: DEPTHS_SPX[name] ?? 0, atFrame: 1, holdPicture: true }),
    flat,
  );
  const from = setCamera(staged, { panX: -250, truck: 0 }, { frame: 1, keying: true });
  const to = setCamera(from, { panX: 250, truck: 150 }, { frame: 109, keying: true });
  return withNotes(withLampLit(withPull(to)), QUAY_NOTES);
}

const planeCalled = (scene: Scene, name: string) => planesOf(scene).find((plane) => plane.name === name);

/** How wide the iris is open, stage px: the lighthouse is soft by some px while the lamplighter is sharp. */
const IRIS_SPX = 14;

/** The focus goes from the lighthouse to the lamplighter as he lifts his pole. */
function withPull(scene: Scene): Scene {
  const [far, near] = [planeCalled(scene, 'Island and light'), planeCalled(scene, 'Lamplighter')];
  if (!far || !near) return scene;
  const open = setCamera(scene, { iris: IRIS_SPX }, { frame: 1, keying: false });
  const rest = focusOn(open, far.id, { frame: 1, keying: false });
  const first = focusOn(rest, far.id, { frame: 14, keying: true });
  return focusOn(first, near.id, { frame: 40, keying: true });
}

/** Where the lamp of the post hangs in the painting, px. */
const LAMP = { x: 1690, y: 434 };
const LAMP_FRAME = 40;

/** The light of the lamp, which rides on the lamplighter's plane: dark until it is lit. */
function withLampLit(scene: Scene): Scene {
  const post = planeCalled(scene, 'Lamplighter');
  const placed = framePlan(scene, 1).planes.find(({ planeId }) => planeId === post?.id);
  if (!post?.origin || placed?.state !== 'drawn') return scene;
  const id = planeIdSchema.parse('quay-lamp');
  const art = { x: LAMP.x - post.origin.xPx, y: LAMP.y - post.origin.yPx };
  const lamp = addLamp(scene, {
    id,
    name: 'Lamp light',
    colour: '#ffc06a',
    widthSpx: 620,
    depthSpx: 0,
    at: applyAffine(placed.artToFrame, art),
    frame: 1,
  });
  const ridden = setPlaneMount(lamp, id, { on: 'plane', plane: post.id }, 1);
  const on = ridden.ok ? ridden.value : lamp;
  const opacity = { on: 'plane', plane: id, name: 'opacity' } as const;
  const dark = setChannelValue(on, opacity, 0, { frame: LAMP_FRAME - 2, keying: true });
  const first = setChannelValue(dark, opacity, 0, { frame: 1, keying: true });
  return setChannelValue(first, opacity, 0.85, { frame: LAMP_FRAME + 6, keying: true });
}
