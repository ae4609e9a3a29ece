import {
  type AlphaMap,
  type ArtSight,
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
    sights: asked.flatMap((planeId) => sightOf(rows, findings, alphaOf, planeId) ?? []),
  };
}
