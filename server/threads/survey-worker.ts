import type { Box } from '@keen-ridge/core/geometry';
import type { PlaneId } from '@keen-ridge/core/scene';
import {
  type AlphaMap,
  type ArtSight,
  bareBoxes,
  type Finding,
  findingsOf,
  type PaintNeed,
  paintList,
  sightOf,
  surveyRows,
} from '@keen-ridge/core/survey';
import type { SurveyTask } from './survey-thread.ts';

export interface Surveyed {
  readonly findings: readonly Finding[];
  readonly needs: readonly PaintNeed[];
  /** Bare spots by plane, as boxes in art px. */
  readonly bare: ReadonlyMap<PlaneId, readonly Box[]>;
  /** Of the planes that were asked for and are seen. */
  readonly sights: readonly ArtSight[];
}

/** A whole survey in one go, off the thread that serves. */
export function surveyAtOnce({ scene, maps, limits, sights }: SurveyTask): Surveyed {
  const alphaOf = (artId: string): AlphaMap | null => maps.get(artId) ?? null;
  const rows = surveyRows(scene, alphaOf);
  const findings = findingsOf(rows, limits);
  const needs = paintList(rows, findings);
  const asked = sights === 'all' ? needs.map(({ planeId }) => planeId) : sights;
  return {
    findings,
    needs,
    bare: bareBoxes(rows),
    sights: asked.flatMap((planeId) => sightOf(rows, findings, alphaOf, planeId) ?? []),
  };
}
