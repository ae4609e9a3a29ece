import {
  type AlphaMap,
  bareBoxes,
  findingsOf,
  paintList,
  sightOf,
  surveyRows,
} from '@keen-ridge/core/survey';
import type { Surveyed, SurveyTask } from './survey-task.ts';

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
