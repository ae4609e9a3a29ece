import { type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { newScene, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
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
  return withNotes(to, QUAY_NOTES);
}
