import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { IDENTITY } from '@keen-ridge/core/geometry';
import { type Raster, raster } from '@keen-ridge/core/image';
import { CLEAR, renderLayers } from '@keen-ridge/core/picture';
import { type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { framePlan } from '@keen-ridge/core/staging/frame';
import {
  type AlphaMap,
  alphaMapOf,
  edgeGaps,
  findingsOf,
  finestAlphaOf,
  surveyRows,
} from '@keen-ridge/core/survey';
import { testArt, testArtId, testPlane, testScene } from '@keen-ridge/core/testing';
import { seededRandom } from '@keen-ridge/core/units';
import { singleThreadRenderer } from '../../server/threads/kernel-file.ts';

const [WIDTH, HEIGHT] = [4096, 2304];
const FRAMES = 240;
/** Frames that the alternative is measured on; its time goes with their number. */
const RENDERED = 12;

/** A layer of 4K with a skyline of its own: opaque below it, clear above. */
function layer(seed: number): Raster<'straight'> {
  const image = raster(WIDTH, HEIGHT, 'straight');
  const random = seededRandom(seed);
  const base = 300 + seed * 140;
  let crest = base;
  for (let x = 0; x < WIDTH; x++) {
    if (x % 40 === 0) crest = base + random() * 160;
    for (let y = Math.floor(crest); y < HEIGHT; y++) {
      const at = (y * WIDTH + x) * 4;
      image.data[at] = (x + seed * 40) & 255;
      image.data[at + 1] = y & 255;
      image.data[at + 2] = 90;
      image.data[at + 3] = 255;
    }
  }
  return image;
}

function shot(count: number, lengthFrames: number): { scene: Scene; planes: Plane[] } {
  const planes = Array.from({ length: count }, (_, i): Plane => {
    const art = { ...testArt(1, WIDTH, HEIGHT), id: testArtId(i % 12) };
    return testPlane(
      { id: planeIdSchema.parse(`bench-${i}`), content: { kind: 'still', art, made: null } },
      WIDTH,
      HEIGHT,
    );
  });
  const flat = testScene(planes, { lengthFrames });
  const staged = planes.reduce(
    (scene, { id }, i) =>
      setPlaneDepth(scene, id, { depthSpx: -300 + i * (3600 / count), atFrame: 1, holdPicture: true }),
    flat,
  );
  const from = setCamera(staged, { panX: -300, truck: 0 }, { frame: 1, keying: true });
  return { scene: setCamera(from, { panX: 300, truck: 120 }, { frame: lengthFrames, keying: true }), planes };
}

function timed<T>(work: () => T): { readonly ms: number; readonly value: T } {
  const start = performance.now();
  const value = work();
  return { ms: performance.now() - start, value };
}

/** `npm run bench -- survey`: the survey of a shot, on one thread, beside rendering every frame and looking at its alpha. */
export async function benchSurvey(json: boolean): Promise<void> {
  const images = Array.from({ length: 12 }, (_, i) => layer(i));
  const maps = new Map<string, AlphaMap>(
    images.map((image, i) => [
      testArtId(i),
      alphaMapOf(WIDTH, HEIGHT, finestAlphaOf(image.data, WIDTH, HEIGHT)),
    ]),
  );
  const alphaOf = (id: string) => maps.get(id) ?? null;
  const { scene } = shot(12, FRAMES);
  const analytic = timed(() => planesOf(scene).map((plane) => edgeGaps(scene, plane)));
  const whole = timed(() => findingsOf(surveyRows(scene, alphaOf)));
  const renderer = await singleThreadRenderer();
  for (const [i, image] of images.entries()) renderer.addImage(testArtId(i), image);
  const view = { ...scene.frame, frameToImage: IDENTITY, background: CLEAR };
  const frames = Array.from(
    { length: RENDERED },
    (_, i) => 1 + Math.round((i * (FRAMES - 1)) / (RENDERED - 1)),
  );
  const rendered = timed(() => {
    let holes = 0;
    for (const frame of frames) {
      const { data } = renderer.render(renderLayers(framePlan(scene, frame), view), view);
      for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) holes += 1;
    }
    return holes;
  });
  const renderedMs = (rendered.ms / RENDERED) * FRAMES;
  const { scene: long } = shot(60, 1000);
  const before = process.memoryUsage().rss;
  const large = timed(() => findingsOf(surveyRows(long, alphaOf)));
  const result = {
    frames: FRAMES,
    planes: 12,
    findings: whole.value.length,
    wholeMs: whole.ms,
    analyticMs: analytic.ms,
    renderedMs,
    timesFaster: renderedMs / whole.ms,
    sixtyPlanesThousandFrames: { ms: large.ms, grownMiB: (process.memoryUsage().rss - before) / 2 ** 20 },
  };
  if (json) console.log(JSON.stringify(result, null, 2));
  else print(result);
}

function print(result: {
  readonly frames: number;
  readonly planes: number;
  readonly wholeMs: number;
  readonly analyticMs: number;
  readonly renderedMs: number;
  readonly timesFaster: number;
  readonly sixtyPlanesThousandFrames: { readonly ms: number; readonly grownMiB: number };
}): void {
  const {
    frames,
    planes,
    wholeMs,
    analyticMs,
    renderedMs,
    timesFaster,
    sixtyPlanesThousandFrames: large,
  } = result;
  console.log(`survey: ${frames} frames of ${planes} planes of 4K at 1080p, on one thread`);
  console.log(
    `  the whole: ${(wholeMs / 1000).toFixed(2)} s, ${timesFaster.toFixed(1)} times as fast as rendering every frame with the kernel and looking at its alpha (${(renderedMs / 1000).toFixed(1)} s)`,
  );
  console.log(`  edges by their margins alone: ${analyticMs.toFixed(0)} ms`);
  console.log(
    `  60 planes, 1000 frames: ${(large.ms / 1000).toFixed(1)} s, ${large.grownMiB.toFixed(0)} MiB more`,
  );
}
