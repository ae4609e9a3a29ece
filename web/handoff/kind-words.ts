import type { HandoffKind } from '@keen-ridge/core/export';

export const KIND_WORDS: Readonly<Record<HandoffKind, { word: string; means: string }>> = {
  png: { word: 'PNG frames', means: 'Numbered, 8 or 16 bit' },
  webm: { word: 'WebM film', means: 'VP9, with alpha if wanted' },
  'webm-av1': { word: 'AV1 film', means: 'WebM, the smallest file' },
  mp4: { word: 'MP4 film', means: 'H.264, plays everywhere' },
  ffv1: { word: 'Lossless film', means: 'FFV1 in Matroska, bit for bit' },
  gif: { word: 'GIF', means: '256 colours, loops' },
  apng: { word: 'Animated PNG', means: 'Lossless, loops' },
  'contact-sheet': { word: 'Contact sheet', means: '24 frames on one page' },
};
