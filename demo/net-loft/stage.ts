import { addCard, type PaintedLayer, planeFromLayer } from '@keen-ridge/core/edits/art';
import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { setRunSpeed } from '@keen-ridge/core/edits/runs';
import { newScene, type Plane, planeIdSchema, type Scene, type Shape } from '@keen-ridge/core/scene';
import { type Outline, pathData, rectangleOutline } from '@keen-ridge/core/shapes';
import { newPlane } from '@keen-ridge/core/staging/content';
import { seededRandom } from '@keen-ridge/core/units';
import { LOFT_NOTES, withNotes } from '../left-so.ts';

export const NET_LOFT_SHOT = '040 Net loft, rain coming';

const id = (text: string) => planeIdSchema.parse(text);
const WIDTH = 2600;
const HEIGHT = 1200;

const box = (
  name: string,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  colour: string,
): Shape => ({
  id: name,
  path: pathData([rectangleOutline({ x0, y0, x1, y1 })]),
  paint: { kind: 'solid', colour, opacity: 1 },
});

/** A plane of shapes, blocked out before anything is painted. */
function blocked(name: string, word: string, shapes: readonly Shape[], depthSpx: number): Plane {
  const size = { widthPx: WIDTH, heightPx: HEIGHT };
  return { ...newPlane(id(name), word, { kind: 'shapes', ...size, shapes: [...shapes] }), depthSpx };
}

/** The wall of the loft, with nothing blocked out behind the net: a gap that the pan uncovers. */
const loft = () =>
  blocked(
    'loft-wall',
    'Loft wall',
    [
      box('west', [0, 590, 1030, HEIGHT], '#4a4658'),
      box('east', [1210, 590, WIDTH, HEIGHT], '#4a4658'),
      box('beam', [0, 570, 1030, 620], '#2f2b38'),
      box('beam-east', [1210, 570, WIDTH, 620], '#2f2b38'),
    ],
    420,
  );

const net = () => blocked('loft-net', 'Hanging net', [box('net', [1040, 0, 1220, HEIGHT], '#23303a')], -640);
const post = () =>
  blocked('loft-post', 'Door post', [box('post', [1900, 0, 2040, HEIGHT], '#171a22')], -1250);

/**
 * A shot with faults to find and to cure: the headland runs out on the east, the wall is bare behind the net, the
 * lamplighter is soft and slides on the floor, the door post crosses too fast. Only the layers of 010 are painted.
 */
export function netLoftScene(layers: readonly PaintedLayer[]): Scene {
  const empty = newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 96 });
  const named = (name: string, as: string): Plane => {
    const layer = layers.find((one) => one.name === name);
    if (!layer) throw new Error(`The demo painting lacks the layer ${name}`);
    return planeFromLayer(id(as), layer);
  };
  const figure = named('Lamplighter', 'loft-figure');
  const painted = named('Far headland', 'loft-headland');
  const headland: Plane = {
    ...painted,
    transform: {
      ...painted.transform,
      xSpx: painted.transform.xSpx - 290,
      ySpx: painted.transform.ySpx + 60,
    },
  };
  const large: Plane = {
    ...figure,
    transform: { ...figure.transform, scaleX: 1.3, scaleY: 1.3, xSpx: 20, ySpx: 10 },
  };
  const floor = blocked('loft-floor', 'Floor', [box('boards', [0, 960, WIDTH, HEIGHT], '#5b5348')], 160);
  const staged = addPlanes(empty, [post(), net(), large, floor, loft(), headland]);
  const far = setPlaneDepth(staged, headland.id, { depthSpx: 5200, atFrame: 1, holdPicture: true });
  const sky = addCard(far, {
    id: id('loft-sky'),
    name: 'Rain sky',
    depthSpx: 24_000,
    before: null,
    paint: {
      kind: 'linear',
      angleDeg: 180,
      space: 'oklab',
      stops: [
        { at: 0, colour: '#39465c', opacity: 1 },
        { at: 0.6, colour: '#7d8797', opacity: 1 },
        { at: 1, colour: '#b7b2a8', opacity: 1 },
      ],
    },
  });
  const from = setCamera(withRain(sky), { panX: -160 }, { frame: 1, keying: true });
  return withNotes(setCamera(from, { panX: 360 }, { frame: 90, keying: true }), LOFT_NOTES);
}

/** A tile of rain, px, and how many streaks fall on it. */
const TILE = { widthPx: 960, heightPx: 960, streaks: 90 } as const;
/** How far a streak leans west as it falls, and how long it is, px. */
const STREAK = { lean: 0.16, least: 40, most: 120, wide: 2.4 } as const;

/** Streaks of rain without end, laid over by screening, falling by themselves. */
function withRain(scene: Scene): Scene {
  const random = seededRandom(40);
  const streaks = Array.from({ length: TILE.streaks }, (): Outline => {
    const long = STREAK.least + random() * (STREAK.most - STREAK.least);
    const [x, y] = [random() * (TILE.widthPx - 30) + 25, random() * (TILE.heightPx - long)];
    const foot = x - STREAK.lean * long;
    const corner = (px: number, py: number) => {
      const at = { x: px, y: py };
      return { at, in: at, out: at };
    };
    return [
      corner(x, y),
      corner(x + STREAK.wide, y),
      corner(foot + STREAK.wide, y + long),
      corner(foot, y + long),
    ];
  });
  const rain: Plane = {
    ...newPlane(id('loft-rain'), 'Rain', {
      kind: 'shapes',
      widthPx: TILE.widthPx,
      heightPx: TILE.heightPx,
      shapes: [
        {
          id: 'streaks',
          path: pathData(streaks),
          paint: { kind: 'solid', colour: '#b9c6d8', opacity: 0.35 },
        },
      ],
    }),
    depthSpx: -300,
    repeat: 'both',
    mode: 'screen',
  };
  const ids = new Set([rain.id]);
  const speed = { x: -9, y: 56, unit: 'datum' } as const;
  return setRunSpeed(addPlanes(scene, [rain]), ids, speed, { frame: 1, keying: false });
}
