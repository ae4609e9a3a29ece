import type { Box } from '@keen-ridge/core/geometry';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import type { AlphaMap, ArtSight, Finding, PaintNeed, SurveyLimits } from '@keen-ridge/core/survey';

/** What the thread is asked. */
export interface SurveyTask {
  readonly scene: Scene;
  readonly maps: ReadonlyMap<string, AlphaMap>;
  readonly limits: SurveyLimits;
  /** Planes whose art is looked at too. */
  readonly sights: 'all' | readonly PlaneId[];
}

/** What it answers. */
export interface Surveyed {
  readonly findings: readonly Finding[];
  readonly needs: readonly PaintNeed[];
  /** Bare spots by plane, as boxes in art px. */
  readonly bare: ReadonlyMap<PlaneId, readonly Box[]>;
  /** Of the planes that were asked for and are seen. */
  readonly sights: readonly ArtSight[];
}
