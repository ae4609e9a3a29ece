import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import type { Rational } from '@keen-ridge/core/units';

export interface FilmFormat {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rate: Rational;
}

export const filmToolPresent = (): boolean =>
  spawnSync('ffmpeg', ['-version'], { stdio: 'ignore' }).status === 0;

/** Tags and matrix of ITU-R BT.709, limited range; sizes padded to even, which 4:2:0 needs. */
const COLOUR = [
  ...['-vf', 'pad=ceil(iw/2)*2:ceil(ih/2)*2,scale=out_color_matrix=bt709:out_range=tv,format=yuv420p'],
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
];
const VP9 = [
  '-c:v',
  'libvpx-vp9',
  '-b:v',
  '0',
  '-crf',
  '20',
  '-deadline',
  'good',
  '-cpu-used',
  '4',
  '-row-mt',
  '1',
];

/** A WebM (VP9) that grows frame by frame. `write` takes opaque RGBA and waits when the encoder is behind. */
export class WebmWriter {
  private readonly encoder;
  private said = '';
  private readonly ended: Promise<number | null>;

  constructor(path: string, { widthPx, heightPx, rate }: FilmFormat) {
    const input = ['-f', 'rawvideo', '-pixel_format', 'rgba', '-video_size', `${widthPx}x${heightPx}`];
    const timing = ['-framerate', `${rate.num}/${rate.den}`, '-i', 'pipe:0'];
    const args = ['-v', 'error', '-y', ...input, ...timing, ...COLOUR, ...VP9, '-f', 'webm', path];
    this.encoder = spawn('ffmpeg', args, { stdio: ['pipe', 'ignore', 'pipe'] });
    this.encoder.stderr.on('data', (text) => {
      this.said += String(text);
    });
    // A broken pipe shows as the exit code, with what the encoder said.
    this.encoder.stdin.on('error', () => {});
    this.ended = new Promise((resolve, reject) => {
      this.encoder.on('error', reject);
      this.encoder.on('close', resolve);
    });
    this.ended.catch(() => {});
  }

  async write(rgba: Uint8Array): Promise<void> {
    if (this.encoder.stdin.write(rgba)) return;
    await Promise.race([once(this.encoder.stdin, 'drain'), this.ended.then(() => this.failed())]);
  }

  async finish(): Promise<void> {
    this.encoder.stdin.end();
    if ((await this.ended) !== 0) this.failed();
  }

  async abort(): Promise<void> {
    this.encoder.kill('SIGKILL');
    await this.ended.catch(() => {});
  }

  private failed(): never {
    throw new Error(`The film encoder stopped: ${this.said.trim().split('\n').at(-1) || 'without a word'}`);
  }
}
