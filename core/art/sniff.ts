export const ART_FILE_KINDS = ['png', 'gif', 'jpeg', 'webp', 'tiff', 'psd', 'zip', 'svg', 'film'] as const;
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
  // Matroska and WebM begin with EBML (RFC 8794); MP4 and MOV with a box (ISO/IEC 14496-12), or with one of QuickTime's.
  if (order === '\x1aE\xdf\xa3' || isFilmBox(text(bytes, 4, 12))) return 'film';
  const start = text(bytes, 0, 1024)
    .replace(/^\u00ef\u00bb\u00bf/, '')
    .trimStart();
  return start.startsWith('<') && /<svg[\s>]/.test(text(bytes, 0, 65_536)) ? 'svg' : null;
}

/** Brands of still pictures in the same boxes, which are no films. */
const STILL_BRANDS = ['heic', 'heix', 'mif1', 'avif', 'avis', 'msf1', 'hevc'];

const isFilmBox = (box: string): boolean =>
  box.startsWith('ftyp')
    ? !STILL_BRANDS.includes(box.slice(4))
    : ['moov', 'mdat', 'wide'].includes(box.slice(0, 4));
