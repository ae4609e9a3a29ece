import type { Box } from '@keen-ridge/core/geometry';
import type { Side } from '@keen-ridge/core/image';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import type { ArtSight, Finding, PaintNeed, ProvenCure, SurveyLimits } from '@keen-ridge/core/survey';

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
  /** How a plane's own art is seen, by the survey of that number. */
  | { readonly kind: 'sight'; readonly id: number; readonly planeId: PlaneId }
  /** What would cure a finding of the survey of that number. */
  | { readonly kind: 'cures'; readonly id: number; readonly findingId: string }
  /** What would be wrong in a shot that is not there yet. */
  | { readonly kind: 'try'; readonly tried: number; readonly scene: Scene; readonly limits: SurveyLimits }
  /** Play and drags go first. */
  | { readonly kind: 'wait'; readonly waits: boolean };

export type FromSurveyWorker =
  | { readonly kind: 'progress'; readonly id: number; readonly done: number; readonly total: number }
  | { readonly kind: 'answer'; readonly id: number; readonly answer: SurveyAnswer; readonly tookMs: number }
  | {
      readonly kind: 'sight';
      readonly id: number;
      readonly planeId: PlaneId;
      readonly sight: ArtSight | null;
    }
  /** The cures that were proven so far; `ended` once there are no more. */
  | {
      readonly kind: 'cures';
      readonly id: number;
      readonly findingId: string;
      readonly cures: readonly ProvenCure[];
      readonly ended: boolean;
    }
  | { readonly kind: 'tried'; readonly tried: number; readonly findings: readonly Finding[] | null }
  | { readonly kind: 'failed'; readonly id: number; readonly reason: string };
