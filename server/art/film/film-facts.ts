import { spawn } from 'node:child_process';
import { once } from 'node:events';
import type { ArtFault } from '@keen-ridge/core/art';
import { rateSchema } from '@keen-ridge/core/scene';
import { fail, ok, type Rational, type Result } from '@keen-ridge/core/units';
import { z } from 'zod';

/** What is known of a film before it is decoded. */
export interface FilmFacts {
  /** As it is shown: turned upright. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rate: Rational;
  /** By its own word, or by its length; 0 where it says neither. */
  readonly expectedFrames: number;
  /** The decoder that keeps the alpha, where the usual one does not. */
  readonly decoder: string | null;
  /** Which of its streams is the picture: a cover is none. */
  readonly stream: number;
  /** One sentence each. */
  readonly notKept: readonly string[];
}

const text = z.string().optional();
const probeSchema = z.object({
  streams: z.array(
    z.object({
      index: z.int(),
      codec_type: text,
      codec_name: text,
      width: z.int().optional(),
      height: z.int().optional(),
      avg_frame_rate: text,
      r_frame_rate: text,
      sample_aspect_ratio: text,
      nb_frames: text,
      disposition: z.object({ attached_pic: z.int().optional() }).optional(),
      tags: z.record(z.string(), z.string()).optional(),
      side_data_list: z.array(z.object({ rotation: z.number().optional() })).optional(),
    }),
  ),
  format: z.object({ duration: text }),
});

/** Decoders of ffmpeg that read the second stream in which WebM keeps alpha; the usual ones of these do not. */
const ALPHA_DECODERS: Readonly<Record<string, string>> = { vp8: 'libvpx', vp9: 'libvpx-vp9' };

function rationalOf(words: string | undefined): Rational | null {
  const [, num, den] = /^(\d+)\/(\d+)$/.exec(words ?? '') ?? [];
  const rate = { num: Number(num ?? 0), den: Number(den ?? 0) };
  if (rate.num <= 0 || rate.den <= 0) return null;
  // A mean over a long film can be a ratio of very large numbers; the scene takes smaller ones.
  const fits = rateSchema.safeParse(rate);
  return fits.success ? fits.data : { num: Math.max(1, Math.round((1000 * rate.num) / rate.den)), den: 1000 };
}

/** Only what the first bytes promise is opened, and no film leads to another file or host. */
export const ONLY_FILMS: readonly string[] = [
  '-format_whitelist',
  'matroska,mov',
  '-protocol_whitelist',
  'file',
];

/** Asks ffprobe what a film is. */
export async function filmFacts(path: string): Promise<Result<FilmFacts, ArtFault>> {
  const shown = '-v error -show_streams -show_format -of json'.split(' ');
  const probing = spawn('ffprobe', [...ONLY_FILMS, ...shown, path], { stdio: ['ignore', 'pipe', 'ignore'] });
  const parts: Uint8Array[] = [];
  probing.stdout.on('data', (part) => parts.push(part));
  try {
    const [code] = await once(probing, 'close');
    if (code !== 0)
      return fail({ code: 'damaged', detail: 'it begins like a film and cannot be read as one' });
  } catch {
    // The one way in which it cannot be started.
    return fail({
      code: 'no-decoder',
      detail: 'films need ffmpeg, which is not installed where Keen Ridge runs',
    });
  }
  const probe = probeSchema.safeParse(JSON.parse(Buffer.concat(parts).toString('utf8')));
  if (!probe.success) return fail({ code: 'damaged', detail: 'what it says of itself makes no sense' });
  const { streams, format } = probe.data;
  const picture = streams.find((one) => one.codec_type === 'video' && one.disposition?.attached_pic !== 1);
  if (!picture?.width || !picture.height) return fail({ code: 'no-layers', detail: 'it has no picture' });
  const rate = rationalOf(picture.avg_frame_rate) ?? rationalOf(picture.r_frame_rate);
  if (!rate) return fail({ code: 'damaged', detail: 'it does not say how many frames a second it has' });
  const seconds = Number(format.duration ?? 0) || 0;
  const turned = (picture.side_data_list ?? []).some(({ rotation = 0 }) => Math.abs(rotation) % 180 === 90);
  const alpha = picture.tags?.alpha_mode === '1' || picture.tags?.ALPHA_MODE === '1';
  return ok({
    widthPx: turned ? picture.height : picture.width,
    heightPx: turned ? picture.width : picture.height,
    rate,
    expectedFrames: Number(picture.nb_frames ?? 0) || Math.round((seconds * rate.num) / rate.den),
    stream: picture.index,
    decoder: (alpha && ALPHA_DECODERS[picture.codec_name ?? '']) || null,
    notKept: notKeptOf(
      picture,
      streams.some(({ codec_type }) => codec_type === 'audio'),
    ),
  });
}

function notKeptOf(picture: z.infer<typeof probeSchema>['streams'][number], sound: boolean): string[] {
  const ratio = picture.sample_aspect_ratio;
  const uneven = ratio !== undefined && !['1:1', '0:1', 'N/A'].includes(ratio);
  const [least, mean] = [rationalOf(picture.r_frame_rate), rationalOf(picture.avg_frame_rate)];
  const unsteady =
    least !== null && mean !== null && Math.abs((least.num * mean.den) / (least.den * mean.num) - 1) > 0.01;
  return [
    ...(sound ? ['Its sound was left out.'] : []),
    ...(uneven ? [`Its pixels are not square (${ratio}); they are taken as squares.`] : []),
    ...(unsteady ? ['Its frames do not all take the same time; here they do.'] : []),
  ];
}
