export const ART_FILE_KINDS = ['png', 'gif', 'jpeg', 'webp', 'tiff', 'psd', 'zip', 'svg'] as const;
export type ArtFileKind = (typeof ART_FILE_KINDS)[number];

const text = (bytes: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...bytes.subarray(from, to));

/** What a file is, by the signatures of the formats' own specifications; its name says nothing. Null: none of ours. */
export function sniff(bytes: Uint8Array): ArtFileKind | null {
  if (text(bytes, 0, 8) === '\x89PNG\r\n\x1a\n') return 'png';
  if (text(bytes, 0, 6) === 'GIF87a' || text(bytes, 0, 6) === 'GIF89a') return 'gif';
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpeg';
  if (text(bytes, 0, 4) === 'RIFF' && text(bytes, 8, 12) === 'WEBP') return 'webp';
  const order = text(bytes, 0, 4);
  if (order === 'II*\0' || order === 'MM\0*' || order === 'II+\0' || order === 'MM\0+') return 'tiff';
  if (order === '8BPS') return 'psd';
  if (order === 'PK\x03\x04' || order === 'PK\x05\x06') return 'zip';
  const start = text(bytes, 0, 1024)
    .replace(/^\u00ef\u00bb\u00bf/, '')
    .trimStart();
  return start.startsWith('<') && /<svg[\s>]/.test(text(bytes, 0, 65_536)) ? 'svg' : null;
}
