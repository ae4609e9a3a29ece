import type { Box } from '../geometry/index.ts';
import type { Side } from '../image/index.ts';
import type { PlaneId } from '../scene/index.ts';
import type { ChannelId } from '../staging/index.ts';

/** Everything that the survey can find; `docs/survey.md` says what each means. */
export const SURVEY_CODES = [
  'hole',
  'edge',
  'reveal',
  'pass',
  'soft',
  'pace',
  'slip',
  'jump',
  'loop',
  'flat',
  'seam',
  'unseen',
] as const;
export type SurveyCode = (typeof SURVEY_CODES)[number];

/** `advice` is told and never counts as wrong. */
export type Grade = 'wrong' | 'advice';

interface Found {
  /** The same for the same fault of the same shot, however it has changed. */
  readonly id: string;
  readonly grade: Grade;
  readonly firstFrame: number;
  readonly worstFrame: number;
  readonly lastFrame: number;
  /** How bad it is at its worst, and what is allowed, in the unit of its code. */
  readonly measured: number;
  readonly limit: number;
}

export type Finding = Found &
  (
    | {
        /** A cut side comes into frame and shows. Output px straight across it; exact. */
        readonly code: 'edge';
        readonly planeId: PlaneId;
        /** As it is seen at the worst frame, and of the art's own. */
        readonly side: Side;
        readonly artSide: Side;
        /** Missing paint at the worst frame, output px², to a cell's border. */
        readonly areaPx: number;
        readonly paintArtPx: number;
      }
    /** The picture is not opaque. Output px²; to a cell's border. */
    | { readonly code: 'hole'; readonly box: Box }
    | {
        /** A nearer plane uncovers what was never painted. Art px²; to a cell of the art's grid. */
        readonly code: 'reveal';
        readonly planeId: PlaneId;
        /** What hid it where the shot is set up. */
        readonly byId: PlaneId | null;
        readonly widestArtPx: number;
        /** Where on the art, art px. */
        readonly box: Box;
      }
    /** Output px for a painted px, as a ratio; exact. */
    | { readonly code: 'soft'; readonly planeId: PlaneId; readonly paintPercent: number }
    /** Output px a frame; exact. */
    | { readonly code: 'pace'; readonly planeId: PlaneId; readonly crossingSeconds: number }
    /** Output px that two planes which touch slide apart; exact for the spot where they touch. */
    | { readonly code: 'slip'; readonly planeId: PlaneId; readonly onId: PlaneId }
    /** Output px a frame² on the datum. */
    | { readonly code: 'jump'; readonly channel: ChannelId }
    /** How far neighbours slide apart over the shot, output px. */
    | { readonly code: 'flat'; readonly planeId: PlaneId; readonly besideId: PlaneId }
    /** Share of what is behind that shows between two planes that abut, 0 to 1; exact for upright ones. */
    | {
        readonly code: 'seam';
        readonly planeId: PlaneId;
        readonly besideId: PlaneId;
        readonly artSide: Side;
      }
    | { readonly code: 'unseen'; readonly planeId: PlaneId; readonly why: 'outside' | 'behind' }
    /** Share of the frame that it fills as it is passed, 0 to 1. */
    | { readonly code: 'pass'; readonly planeId: PlaneId }
    /** Share of a turn that is missing from a whole number of turns. */
    | { readonly code: 'loop'; readonly planeId: PlaneId }
  );

export type FindingOf<C extends SurveyCode> = Extract<Finding, { readonly code: C }>;

/** What an artist calls too much. */
export interface SurveyLimits {
  /** Smallest gap at a cut side that counts, output px. */
  readonly gapPx: number;
  /** Output px for a painted px; from a quarter over it on it is wrong, up to there advice. */
  readonly softness: number;
  /** Seconds that something must take to cross the frame. */
  readonly crossingSeconds: number;
  /** Output px that planes which touch may slide apart. */
  readonly slipPx: number;
}

/** 7 s to cross the frame: a rule of cinematographers' handbooks, from memory. The others: common practice, no source. */
export const USUAL_LIMITS: SurveyLimits = { gapPx: 1, softness: 1, crossingSeconds: 7, slipPx: 12 };
