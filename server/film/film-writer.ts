import { spawn, spawnSync } from 'node:child_process';
import { HANDOFF_FORMATS, type HandoffKind, spreadUnderClear } from '@keen-ridge/core/export';
import { type Rational, rationalToNumber } from '@keen-ridge/core/units';
import { causeOf, isDiskFull } from '../faults/cause.ts';

export interface FilmFormat {
  readonly kind: Exclude<HandoffKind, 'png' | 'contact-sheet'>;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rate: Rational;
  /** Whether clear places stay clear. */
  readonly alpha: boolean;
  readonly sound?: FilmSound | null;
}

/** A file of sound, from how many seconds into it the film begins (negative: it begins later), and the film's length. */
export interface FilmSound {
  readonly path: string;
  readonly fromSeconds: number;
  readonly filmSeconds: number;
  /** 0 to 1. */
  readonly volume: number;
}

/** Kinds of film that can hold a sound, and how it is coded in each. */
const SOUND_CODECS: Readonly<Partial<Record<FilmFormat['kind'], string>>> = {
  webm: '-c:a libopus -b:a 160k',
  'webm-av1': '-c:a libopus -b:a 160k',
  mp4: '-c:a aac -b:a 192k',
  ffv1: '-c:a flac',
};

/**
 * The sound cut and laid to the film to the sample: what lies before the film is left out, silence stands where there is
 * none, and it ends with the film.
 */
function soundArguments({ kind, sound }: FilmFormat): { input: string[]; output: string[] } {
  const codec = SOUND_CODECS[kind];
  if (!sound || !codec) return { input: [], output: [] };
  const { path, fromSeconds, filmSeconds, volume } = sound;
  const place =
    fromSeconds >= 0
      ? `atrim=start=${fromSeconds},asetpts=PTS-STARTPTS`
      : `adelay=${Math.round(-fromSeconds * 48_000)}S:all=1`;
  const laid = `[1:a:0]aresample=48000,${place},volume=${volume},apad,atrim=duration=${filmSeconds}[sound]`;
  return {
    input: ['-i', path],
    output: ['-filter_complex', laid, '-map', '0:v', '-map', '[sound]', ...codec.split(' ')],
  };
}

const LOOK_AGAIN_MS = 5000;
let toolFound = false;
let lookedAt = Number.NEGATIVE_INFINITY;

/** Whether ffmpeg is there. Looked for now and then until it is: asking costs a process. */
export function filmToolPresent(now = Date.now()): boolean {
  if (toolFound || now - lookedAt < LOOK_AGAIN_MS) return toolFound;
  lookedAt = now;
  toolFound = spawnSync('ffmpeg', ['-version'], { stdio: 'ignore' }).status === 0;
  return toolFound;
}

/** Tags of ITU-R BT.709, limited range. */
const TAGS = '-colorspace bt709 -color_primaries bt709 -color_trc bt709 -color_range tv'.split(' ');
/** Its matrix, at even sizes, which 4:2:0 needs: the last column and row are repeated, so that no black bleeds into them. */
function toBt709({ widthPx, heightPx }: FilmFormat, pixels: string): string[] {
  const [x, y] = [widthPx % 2, heightPx % 2];
  const even = x + y === 0 ? '' : `pad=iw+${x}:ih+${y},fillborders=right=${x}:bottom=${y}:mode=smear,`;
  return ['-vf', `${even}scale=out_color_matrix=bt709:out_range=tv,format=${pixels}`, ...TAGS];
}

/** What ffmpeg is told for each kind, after the input. */
function codecArguments(format: FilmFormat): string[] {
  const { kind, alpha, rate } = format;
  switch (kind) {
    case 'webm': {
      const vp9 = '-c:v libvpx-vp9 -b:v 0 -crf 20 -deadline good -cpu-used 4 -row-mt 1'.split(' ');
      // Alpha is a second stream of grey, which alternate reference frames would part from the first.
      return alpha
        ? [...toBt709(format, 'yuva420p'), ...vp9, '-auto-alt-ref', '0', '-f', 'webm']
        : [...toBt709(format, 'yuv420p'), ...vp9, '-f', 'webm'];
    }
    case 'webm-av1':
      return [...toBt709(format, 'yuv420p'), ...'-c:v libsvtav1 -crf 24 -preset 8 -f webm'.split(' ')];
    case 'mp4':
      return [
        ...toBt709(format, 'yuv420p'),
        ...'-c:v libx264 -crf 15 -preset medium -movflags +faststart -f mp4'.split(' '),
      ];
    case 'ffv1':
      return [
        ...`-c:v ffv1 -level 3 -g 1 -slices 4 -slicecrc 1 -pix_fmt ${alpha ? 'bgra' : 'bgr0'} -f matroska`.split(
          ' ',
        ),
      ];
    case 'gif': {
      const most = HANDOFF_FORMATS.gif.mostRate;
      const slower = most !== null && rationalToNumber(rate) > most ? `fps=${most},` : '';
      return [
        '-vf',
        `${slower}split[a][b];[a]palettegen=stats_mode=full:reserve_transparent=0[p];[b][p]paletteuse=dither=sierra2_4a`,
        ...'-loop 0 -f gif'.split(' '),
      ];
    }
    case 'apng':
      return [...`-c:v apng -pix_fmt ${alpha ? 'rgba' : 'rgb24'} -plays 0 -f apng`.split(' ')];
  }
}

/** A film that grows frame by frame. `write` takes straight RGBA and waits when the encoder is behind. */
export class FilmWriter {
  private readonly encoder;
  private said = '';
  private readonly format: FilmFormat;
  /** Chroma is shared among pixels while clear ones stay clear. */
  private readonly spreads: boolean;
  private readonly ended: Promise<number | null>;

  constructor(path: string, format: FilmFormat) {
    this.format = format;
    this.spreads = format.kind === 'webm' && format.alpha;
    const { widthPx, heightPx, rate } = format;
    const input = ['-f', 'rawvideo', '-pixel_format', 'rgba', '-video_size', `${widthPx}x${heightPx}`];
    const timing = ['-framerate', `${rate.num}/${rate.den}`, '-i', 'pipe:0'];
    const heard = soundArguments(format);
    const made = [...heard.output, ...codecArguments(format), path];
    const args = ['-v', 'error', '-y', ...input, ...timing, ...heard.input, ...made];
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

  async write(pixels: Uint8Array): Promise<void> {
    const rgba = this.spreads ? spread(pixels, this.format) : pixels;
    if (this.encoder.stdin.write(rgba)) return;
    // A pipe that breaks says nothing here: what the encoder says as it ends is the reason.
    const drained = new Promise<'drained'>((resolve) =>
      this.encoder.stdin.once('drain', () => resolve('drained')),
    );
    if ((await Promise.race([drained, this.ended])) !== 'drained') this.failed();
  }

  async finish(): Promise<void> {
    this.encoder.stdin.end();
    const code = await this.ended;
    // A disk that is full at the last write is said, but does not show in the exit code.
    if (code !== 0 || WRITE_FAULT.test(this.said)) this.failed();
  }

  async abort(): Promise<void> {
    this.encoder.kill('SIGKILL');
    await this.ended.catch(() => {});
  }

  private failed(): never {
    const words = this.said.trim();
    throw new Error(`The film encoder stopped: ${words.split('\n').at(-1) || 'without a word'}`);
  }
}

function spread(pixels: Uint8Array, { widthPx, heightPx }: FilmFormat): Uint8Array {
  const own = Uint8Array.from(pixels);
  spreadUnderClear(own, widthPx, heightPx);
  return own;
}

const WRITE_FAULT = /No space left on device|Error writing|Error closing/i;
const DISK_FULL = 'The disk is full. Make room, then hand off again: what was rendered is kept.';

/** Why a hand-off failed, in a sentence; the same words for a full disk, whoever finds it. */
export const outputReason = (error: unknown): string => (isDiskFull(error) ? DISK_FULL : causeOf(error));
