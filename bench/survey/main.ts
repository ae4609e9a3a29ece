import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { setCamera } from '@keen-ridge/core/edits/keys';
import { renamePlane, setPlaneTransform } from '@keen-ridge/core/edits/planes';
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
  SurveyRun,
  surveyRows,
} from '@keen-ridge/core/survey';
import { testArt, testArtId, testPlane, testScene } from '@keen-ridge/core/testing';
import { seededRandom } from '@keen-ridge/core/units';
import sharp from 'sharp';
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

const edgesOf = (scene: Scene) => planesOf(scene).map((plane) => edgeGaps(scene, plane));

function ended(scene: Scene, alphaOf: (id: string) => AlphaMap | null, older: SurveyRun | null): SurveyRun {
  const run = new SurveyRun(scene, alphaOf, older);
  while (run.step());
  return run;
}

/** Frames that sharp is measured on. */
const COMPOSED = 4;

/** Every frame composed by sharp at a quarter of its size, of layers that were made as small beforehand, and its alpha looked at; ms for all. */
async function sharpAtQuarter(scene: Scene, images: readonly Raster<'straight'>[]): Promise<number> {
  const [wide, high] = [Math.round(scene.frame.widthPx / 4), Math.round(scene.frame.heightPx / 4)];
  const small = await Promise.all(
    images.map(({ data, widthPx, heightPx }) =>
      sharp(data, { raw: { width: widthPx, height: heightPx, channels: 4 } })
        .resize(widthPx / 4, heightPx / 4)
        .png({ compressionLevel: 0 })
        .toBuffer(),
    ),
  );
  let holes = 0;
  const start = performance.now();
  for (let i = 0; i < COMPOSED; i++) {
    const plan = framePlan(scene, 1 + Math.round((i * (FRAMES - 1)) / (COMPOSED - 1)));
    const layers: { input: Buffer; left: number; top: number }[] = [];
    for (const one of plan.planes) {
      if (one.state !== 'drawn') continue;
      const { a, e, f } = one.artToFrame;
      const [width, height] = [Math.round((WIDTH * a) / 4), Math.round((HEIGHT * a) / 4)];
      const [left, top] = [Math.max(0, Math.round(-e / 4)), Math.max(0, Math.round(-f / 4))];
      const input = await sharp(small[planesOf(scene).findIndex(({ id }) => id === one.planeId)])
        .resize(width, height)
        .extract({
          left: Math.min(left, width - 1),
          top: Math.min(top, height - 1),
          width: Math.max(1, Math.min(wide, width - left)),
          height: Math.max(1, Math.min(high, height - top)),
        })
        .png({ compressionLevel: 0 })
        .toBuffer();
      layers.push({ input, left: 0, top: 0 });
    }
    const { data } = await sharp({
      create: { width: wide, height: high, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .composite(layers)
      .raw()
      .toBuffer({ resolveWithObject: true });
    holes += data.filter((value, k) => k % 4 === 3 && value !== 255).length;
  }
  const ms = ((performance.now() - start) / COMPOSED) * FRAMES;
  if (holes === 0) console.warn('sharp found no hole');
  return ms;
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
  // Once each for the compiler: what is measured is a survey as it runs again and again while the artist works.
  edgesOf(scene);
  ended(scene, alphaOf, null);
  const analytic = timed(() => edgesOf(structuredClone(scene)));
  const run = ended(scene, alphaOf, null);
  const whole = timed(() => findingsOf(ended(structuredClone(scene), alphaOf, null).rows));
  const edits = {
    name: renamePlane(scene, planesOf(scene)[0]!.id, 'Nearest'),
    lastTenth: setCamera(
      setCamera(scene, { panX: 240 }, { frame: 216, keying: true }),
      { panX: 310 },
      { frame: 240, keying: true },
    ),
    onePlane: setPlaneTransform(scene, planesOf(scene)[6]!.id, { xSpx: 30 }),
  };
  const older = ended(edits.lastTenth, alphaOf, null);
  const further = setCamera(edits.lastTenth, { panX: 330 }, { frame: 240, keying: true });
  const afterMs = {
    name: timed(() => ended(structuredClone(edits.name), alphaOf, run)).ms,
    lastTenth: timed(() => ended(structuredClone(further), alphaOf, older)).ms,
    onePlane: timed(() => ended(structuredClone(edits.onePlane), alphaOf, run)).ms,
  };
  const sharpMs = await sharpAtQuarter(scene, images);
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
    afterMs,
    renderedMs,
    sharpQuarterMs: sharpMs,
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
  readonly afterMs: Readonly<Record<'name' | 'lastTenth' | 'onePlane', number>>;
  readonly renderedMs: number;
  readonly sharpQuarterMs: number;
  readonly timesFaster: number;
  readonly sixtyPlanesThousandFrames: { readonly ms: number; readonly grownMiB: number };
}): void {
  const {
    frames,
    planes,
    wholeMs,
    analyticMs,
    afterMs,
    renderedMs,
    sharpQuarterMs,
    timesFaster,
    sixtyPlanesThousandFrames: large,
  } = result;
  console.log(`survey: ${frames} frames of ${planes} planes of 4K at 1080p, on one thread`);
  console.log(
    `  the whole: ${(wholeMs / 1000).toFixed(2)} s, ${timesFaster.toFixed(1)} times as fast as rendering every frame with the kernel and looking at its alpha (${(renderedMs / 1000).toFixed(1)} s)`,
  );
  console.log(
    `  ${(sharpQuarterMs / wholeMs).toFixed(1)} times as fast as composing it by sharp at a quarter of its size (${(sharpQuarterMs / 1000).toFixed(1)} s)`,
  );
  console.log(`  edges by their margins alone: ${analyticMs.toFixed(0)} ms`);
  const share = (ms: number) => `${ms.toFixed(0)} ms, ${((100 * ms) / wholeMs).toFixed(0)} % of the whole`;
  console.log(`  again after a plane was renamed: ${share(afterMs.name)}`);
  console.log(`  again after the last tenth of the pan was changed: ${share(afterMs.lastTenth)}`);
  console.log(`  again after one plane was moved on every frame: ${share(afterMs.onePlane)}`);
  console.log(
    `  60 planes, 1000 frames: ${(large.ms / 1000).toFixed(1)} s, ${large.grownMiB.toFixed(0)} MiB more`,
  );
}
