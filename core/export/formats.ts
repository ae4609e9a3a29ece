/** What can be handed off, each with its limits, looked at before any work is done. */
export const HANDOFF_KINDS = [
  'png',
  'webm',
  'webm-av1',
  'mp4',
  'ffv1',
  'gif',
  'apng',
  'contact-sheet',
] as const;
export type HandoffKind = (typeof HANDOFF_KINDS)[number];

export const STILL_KINDS = ['png', 'webp', 'openraster'] as const;
export type StillKind = (typeof STILL_KINDS)[number];

export interface HandoffFormat {
  /** `frames` leave as they are, side by side; a `film` is one file made by ffmpeg; a `sheet` is one picture. */
  readonly made: 'frames' | 'film' | 'sheet';
  readonly extension: string;
  /** Whether clear places may stay clear. */
  readonly alpha: boolean;
  readonly depths: readonly (8 | 16)[];
  /** Sizes are made even, which 4:2:0 needs. */
  readonly even: boolean;
  /** Shortest and longest side, px. */
  readonly leastPx: number;
  readonly mostPx: number;
  /** Frames a second that it can show, at most; null where any. */
  readonly mostRate: number | null;
  readonly mostFrames: number;
  /** Whether it can hold a sound. */
  readonly sound: boolean;
  /** Blocks of 16 × 16 px that a picture may be made of; null where only its sides count. */
  readonly mostMacroblocks: number | null;
}

const film = {
  made: 'film',
  depths: [8],
  leastPx: 1,
  mostRate: null,
  mostFrames: 200_000,
  sound: true,
  mostMacroblocks: null,
} as const;

export const HANDOFF_FORMATS: Readonly<Record<HandoffKind, HandoffFormat>> = {
  png: {
    made: 'frames',
    extension: 'zip',
    alpha: true,
    depths: [8, 16],
    even: false,
    leastPx: 1,
    mostPx: 16_384,
    mostRate: null,
    mostFrames: 200_000,
    sound: false,
    mostMacroblocks: null,
  },
  webm: { ...film, extension: 'webm', alpha: true, even: true, mostPx: 16_384 },
  // SVT-AV1 encodes nothing smaller.
  'webm-av1': { ...film, extension: 'webm', alpha: false, even: true, leastPx: 64, mostPx: 8192 },
  // Level 6.2 of H.264 (ITU-T H.264, table A-1): MaxFS of 139 264 macroblocks, and √(8·139 264) of them to a side.
  mp4: {
    ...film,
    extension: 'mp4',
    alpha: false,
    even: true,
    mostPx: 16_384,
    mostMacroblocks: 139_264,
  },
  // Four slices of a px at least.
  ffv1: { ...film, extension: 'mkv', alpha: true, even: false, leastPx: 4, mostPx: 16_384 },
  // Delays count in hundredths of a second, and players take one of less than two for ten (GIF89a, section 23).
  gif: {
    ...film,
    extension: 'gif',
    alpha: false,
    even: false,
    mostPx: 16_384,
    mostRate: 50,
    mostFrames: 5000,
    sound: false,
  },
  apng: {
    ...film,
    extension: 'apng',
    alpha: true,
    even: false,
    mostPx: 16_384,
    mostFrames: 20_000,
    sound: false,
  },
  'contact-sheet': {
    made: 'sheet',
    extension: 'png',
    alpha: false,
    depths: [8],
    even: false,
    leastPx: 1,
    mostPx: 16_384,
    mostRate: null,
    mostFrames: 200_000,
    sound: false,
    mostMacroblocks: null,
  },
};

/** The last pictures of a sheet are the last frames of the shot: so many at most, evenly apart. */
export const SHEET_PICTURES = 24;
