import type { Box } from '@keen-ridge/core/geometry';
import type { Side } from '@keen-ridge/core/image';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import type { Finding, PaintNeed, SurveyLimits } from '@keen-ridge/core/survey';

/** What is spare at the sides of a plane over the shot, for its ribbon: one a frame. */
export interface PlaneRibbon {
  readonly planeId: PlaneId;
  /** By side of the art: how far it stands inside the frame, output px; under 0 it is spare, NaN where it has no end. */
  readonly inside: Readonly<Record<Side, Float32Array>>;
  readonly looksTo: Readonly<Record<Side, Uint8Array>>;
  readonly seenPx: Float32Array;
}

/** What was found in a scene. */
export interface SurveyAnswer {
  readonly findings: readonly Finding[];
  readonly ribbons: readonly PlaneRibbon[];
  readonly needs: readonly PaintNeed[];
  /** Bare spots by plane, as boxes in art px. */
  readonly bare: ReadonlyMap<PlaneId, readonly Box[]>;
}

export type ToSurveyWorker =
  | { readonly kind: 'survey'; readonly id: number; readonly scene: Scene; readonly limits: SurveyLimits }
  /** Play and drags go first. */
  | { readonly kind: 'wait'; readonly waits: boolean };

export type FromSurveyWorker =
  | { readonly kind: 'progress'; readonly id: number; readonly done: number; readonly total: number }
  | { readonly kind: 'answer'; readonly id: number; readonly answer: SurveyAnswer; readonly tookMs: number }
  | { readonly kind: 'failed'; readonly id: number; readonly reason: string };
