/** Files of sound that can be laid under a shot, by the ending that they go by. */
export const SOUND_KINDS = ['wav', 'mp3', 'ogg', 'flac'] as const;
export type SoundKind = (typeof SOUND_KINDS)[number];

export const SOUND_TYPES: Readonly<Record<SoundKind, string>> = {
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  ogg: 'audio/ogg',
  flac: 'audio/flac',
};

/** What kind of file bytes are, by the marks that their formats begin with; null where it is none of ours. */
export function soundKindOf(bytes: Uint8Array): SoundKind | null {
  const text = (at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));
  // RIFF (Multimedia Programming Interface and Data Specifications 1.0), Ogg (RFC 3533), FLAC (RFC 9639), ID3v2.
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WAVE') return 'wav';
  if (text(0, 4) === 'OggS') return 'ogg';
  if (text(0, 4) === 'fLaC') return 'flac';
  if (text(0, 3) === 'ID3') return 'mp3';
  // A frame of MPEG audio: eleven bits set, then its version and layer III (ISO/IEC 11172-3, 2.4.2.3).
  return bytes[0] === 0xff && ((bytes[1] ?? 0) & 0xe6) === 0xe2 ? 'mp3' : null;
}

/** Where a sound lies in a package or an archive. */
export const soundPart = (id: string, kind: SoundKind): string => `sound/${id}.${kind}`;
/** The names that it may have there. */
export const soundParts = (id: string): string[] => SOUND_KINDS.map((kind) => soundPart(id, kind));
export const isSoundPart = (name: string): boolean => /^sound\/[0-9a-f]{64}\.(wav|mp3|ogg|flac)$/.test(name);
