import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Raster } from '@keen-ridge/core/image';
import type { FramePlan } from '@keen-ridge/core/staging/frame';

const FRAMES = 5;

/**
 * Milliseconds a frame through ffmpeg's scale and overlay filters, in RGB, for a plan that does not turn: the same frame
 * several times over, less what one frame with its start takes.
 */
export function ffmpegMs(plan: FramePlan, images: ReadonlyMap<string, Raster<'straight'>>): number {
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-ffmpeg-'));
  try {
    const inputs: string[] = [];
    const filters: string[] = [];
    let under = '[ground]';
    plan.planes.forEach((plane, i) => {
      const image = plane.shown.kind === 'image' ? images.get(plane.shown.art.id) : undefined;
      const m = plane.artToFrame;
      if (!image || !m) throw new Error('The bench scenes draw every plane');
      const path = join(folder, `${i}.rgba`);
      writeFileSync(path, image.data);
      const size = `${image.widthPx}x${image.heightPx}`;
      inputs.push(
        '-stream_loop',
        '-1',
        '-f',
        'rawvideo',
        '-pixel_format',
        'rgba',
        '-video_size',
        size,
        '-i',
        path,
      );
      const [w, h] = [Math.round(image.widthPx * m.a), Math.round(image.heightPx * m.d)];
      filters.push(`[${i}]scale=${w}:${h}:flags=bilinear[s${i}]`);
      filters.push(`${under}[s${i}]overlay=${Math.round(m.e)}:${Math.round(m.f)}:format=rgb[o${i}]`);
      under = `[o${i}]`;
    });
    const ground = `color=black:size=${plan.widthPx}x${plan.heightPx}:rate=24,format=rgba[ground]`;
    const run = (frames: number): number => {
      const start = performance.now();
      const done = spawnSync(
        'ffmpeg',
        [
          ...['-v', 'error', ...inputs, '-filter_complex', [ground, ...filters].join(';'), '-map', under],
          ...['-frames:v', String(frames), '-f', 'null', '-'],
        ],
        { stdio: ['ignore', 'ignore', 'inherit'] },
      );
      if (done.status !== 0) throw new Error('ffmpeg failed');
      return performance.now() - start;
    };
    return (run(1 + FRAMES) - run(1)) / FRAMES;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
