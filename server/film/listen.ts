import { spawn } from 'node:child_process';
import type { SoundKind } from '@keen-ridge/core/art/sound';
import { LONGEST_SOUND_SECONDS, PEAKS_PER_SECOND } from '@keen-ridge/core/contract/sound';
import { fail, ok, type Result } from '@keen-ridge/core/units';

/** Samples a second that peaks are told by. */
const SAMPLES_PER_SECOND = 8000;
const IN_ONE_PEAK = SAMPLES_PER_SECOND / PEAKS_PER_SECOND;
/** A file of a stranger is given up after so long. */
const LONGEST_MS = 120_000;

export interface Heard {
  readonly durationSeconds: number;
  /** The loudest of each hundredth of a second, 0 to 255. */
  readonly peaks: Uint8Array;
}

/**
 * Listens to a file of sound, all of it: how long it is and how loud, or a sentence of what is wrong with it. Only the
 * demuxer of its kind may read it, and nothing but the file itself.
 */
export function listen(path: string, kind: SoundKind, signal?: AbortSignal): Promise<Result<Heard, string>> {
  const args = ['-v', 'error', '-nostdin', '-protocol_whitelist', 'file,pipe', '-f', kind, '-i', path];
  const out = ['-map', '0:a:0', '-ac', '1', '-ar', `${SAMPLES_PER_SECOND}`, '-f', 's16le', 'pipe:1'];
  return new Promise((resolve, reject) => {
    const decoder = spawn('ffmpeg', [...args, ...out], { stdio: ['ignore', 'pipe', 'pipe'] });
    const levels = new Levels();
    let said = '';
    let why: string | null = null;
    const end = (sentence: string) => {
      why ??= sentence;
      decoder.kill('SIGKILL');
    };
    const timer = setTimeout(() => end('it took too long to read'), LONGEST_MS);
    const abort = () => end('it was called off');
    signal?.addEventListener('abort', abort, { once: true });
    decoder.stdout.on('data', (bytes: Buffer) => {
      levels.add(bytes);
      if (levels.seconds > LONGEST_SOUND_SECONDS)
        end(`it is longer than ${LONGEST_SOUND_SECONDS / 60} minutes`);
    });
    decoder.stderr.on('data', (text) => {
      said = `${said}${String(text)}`.slice(-2000);
    });
    decoder.on('error', (error: NodeJS.ErrnoException) => {
      clearTimeout(timer);
      if (error.code !== 'ENOENT') reject(error);
      else resolve(fail('sounds need ffmpeg: sudo apt-get install ffmpeg, then try again'));
    });
    decoder.on('close', (code) => {
      clearTimeout(timer);
      signal?.removeEventListener('abort', abort);
      if (signal?.aborted) reject(signal.reason);
      else if (why !== null) resolve(fail(why));
      else if (code !== 0 || levels.seconds === 0) resolve(fail(readable(said)));
      else resolve(ok({ durationSeconds: levels.seconds, peaks: levels.peaks() }));
    });
  });
}

/** What the decoder said, without the path of this machine. */
const readable = (said: string): string =>
  said.includes('matches no streams') || said.trim() === '' ? 'there is no sound in it' : 'it is damaged';

/** The loudest of every hundredth, of samples that come in pieces. */
class Levels {
  private readonly found: number[] = [];
  private samples = 0;
  private most = 0;
  private half: number | null = null;

  get seconds(): number {
    return this.samples / SAMPLES_PER_SECOND;
  }

  add(bytes: Buffer): void {
    let at = 0;
    if (this.half !== null && bytes.length > 0) {
      this.sample(Buffer.from([this.half, bytes[0]!]).readInt16LE(0));
      this.half = null;
      at = 1;
    }
    for (; at + 1 < bytes.length; at += 2) this.sample(bytes.readInt16LE(at));
    if (at < bytes.length) this.half = bytes[at]!;
  }

  private sample(value: number): void {
    this.most = Math.max(this.most, Math.abs(value));
    this.samples += 1;
    if (this.samples % IN_ONE_PEAK === 0) this.keep();
  }

  private keep(): void {
    this.found.push(Math.min(255, Math.round(this.most / 128.5)));
    this.most = 0;
  }

  peaks(): Uint8Array {
    if (this.samples % IN_ONE_PEAK !== 0) this.keep();
    return Uint8Array.from(this.found);
  }
}
