import { z } from 'zod';
import { LIMITS, soundIdSchema } from '../../scene/index.ts';

/** Files of sound that can be laid under a shot, by the ending that they go by. */
export const SOUND_KINDS = ['wav', 'mp3', 'ogg', 'flac'] as const;
export type SoundKind = (typeof SOUND_KINDS)[number];

export const SOUND_TYPES: Readonly<Record<SoundKind, string>> = {
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  ogg: 'audio/ogg',
  flac: 'audio/flac',
};

export const LARGEST_SOUND_BYTES = 256 * 2 ** 20;
/** Peaks of a sound in a second of it. */
export const PEAKS_PER_SECOND = 100;

export const soundQuerySchema = z.object({ name: z.string().min(1).max(LIMITS.nameLength.max) });

/** A sound that was brought in. */
export const soundAnswerSchema = z.object({
  id: soundIdSchema,
  name: z.string(),
  durationSeconds: z.number().positive(),
});

/** What kind of file bytes are: by the marks that their formats begin with; null where it is none of ours. */
export function soundKindOf(bytes: Uint8Array): SoundKind | null {
  const text = (at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));
  // RIFF (Multimedia Programming Interface and Data Specifications 1.0), Ogg (RFC 3533), FLAC (RFC 9639), ID3v2.
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WAVE') return 'wav';
  if (text(0, 4) === 'OggS') return 'ogg';
  if (text(0, 4) === 'fLaC') return 'flac';
  if (text(0, 3) === 'ID3') return 'mp3';
  // A frame of MPEG audio: eleven bits set, layer III (ISO/IEC 11172-3).
  return bytes[0] === 0xff && (bytes[1]! & 0xe6) === 0xe2 ? 'mp3' : null;
}
