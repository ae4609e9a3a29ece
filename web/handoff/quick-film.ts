import { toI420 } from '@keen-ridge/core/export';
import { IDENTITY } from '@keen-ridge/core/geometry';
import { artsDrawn, BLACK, type RenderView, renderLayers } from '@keen-ridge/core/picture';
import type { RenderPool } from '@keen-ridge/core/pool';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { framePlan } from '@keen-ridge/core/staging/frame';
import {
  BufferTarget,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny';
import { streamSource } from '../picture/live/art-loader.ts';
import { sharedPool } from '../picture/live/browser-pool.ts';

export interface QuickFilmWork {
  readonly scene: Scene;
  readonly firstFrame: number;
  readonly lastFrame: number;
  readonly signal: AbortSignal;
  readonly onFrame: (done: number) => void;
}

export interface QuickFilm {
  readonly blob: Blob;
  readonly extension: 'mp4' | 'webm';
}

/** What this browser can encode, H.264 before VP9. */
async function formatHere(widthPx: number, heightPx: number) {
  const size = { width: widthPx, height: heightPx };
  if (await canEncodeVideo('avc', size))
    return { codec: 'avc', extension: 'mp4', format: new Mp4OutputFormat(), mime: 'video/mp4' } as const;
  if (await canEncodeVideo('vp9', size))
    return { codec: 'vp9', extension: 'webm', format: new WebMOutputFormat(), mime: 'video/webm' } as const;
  throw new Error('This browser encodes no film of this size. Hand off a film instead: the server makes it.');
}

/** A film made in the page alone: rendered by its own workers, encoded by the browser. Rejects when `signal` aborts. */
export async function quickFilm(work: QuickFilmWork): Promise<QuickFilm> {
  const { scene, firstFrame, lastFrame, signal, onFrame } = work;
  const { widthPx, heightPx } = scene.frame;
  const even = { widthPx: widthPx + (widthPx % 2), heightPx: heightPx + (heightPx % 2) };
  const { codec, extension, format, mime } = await formatHere(even.widthPx, even.heightPx);
  const opening = sharedPool.take();
  const target = new BufferTarget();
  const output = new Output({ format, target });
  const source = new VideoSampleSource({ codec, bitrate: QUALITY_HIGH });
  const seconds = scene.rate.den / scene.rate.num;
  output.addVideoTrack(source, { frameRate: 1 / seconds });
  try {
    const pool = await opening;
    await openArt(pool, scene);
    await output.start();
    for (let frame = firstFrame; frame <= lastFrame; frame++) {
      const rgba = await completeFrame(pool, scene, frame, signal);
      const planar = toI420(rgba, widthPx, heightPx);
      const sample = new VideoSample(planar.data as Uint8Array<ArrayBuffer>, {
        format: 'I420',
        codedWidth: planar.widthPx,
        codedHeight: planar.heightPx,
        // Counted anew for each frame, so that nothing adds up.
        timestamp: ((frame - firstFrame) * scene.rate.den) / scene.rate.num,
        duration: seconds,
        colorSpace: { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', fullRange: false },
      });
      await source.add(sample);
      sample.close();
      onFrame(frame - firstFrame + 1);
    }
    await output.finalize();
    if (!target.buffer) throw new Error('The film came out empty');
    return { blob: new Blob([target.buffer], { type: mime }), extension };
  } catch (error) {
    if (output.state !== 'finalized') await output.cancel();
    throw error;
  } finally {
    sharedPool.giveBack();
  }
}

const openArt = (pool: RenderPool, scene: Scene): Promise<unknown> =>
  Promise.all(
    artsDrawn(planesOf(scene).filter((plane) => !plane.hidden)).map((id) =>
      pool.openStream(id, streamSource(id)),
    ),
  );

/** Opaque RGBA of a frame once all of its art is there. */
async function completeFrame(
  pool: RenderPool,
  scene: Scene,
  frame: number,
  signal: AbortSignal,
): Promise<Uint8Array | Uint8ClampedArray> {
  const view: RenderView = { ...scene.frame, frameToImage: IDENTITY, background: BLACK };
  const wanted = renderLayers(framePlan(scene, frame), view);
  for (;;) {
    signal.throwIfAborted();
    let fault: unknown = null;
    let arrived = () => {};
    const arrival = new Promise<void>((resolve) => {
      arrived = resolve;
    });
    const { layers, complete } = pool.prepare(wanted, view, {
      onArrival: arrived,
      onFault: (error) => {
        fault = error;
        arrived();
      },
    });
    if (complete) return (await pool.render(layers, view, pool.size, { signal })).data;
    await arrival;
    if (fault) throw fault;
  }
}
