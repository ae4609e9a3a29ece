import type { Finding, SurveyLimits } from '../finding.ts';
import { findingsOf } from '../findings.ts';
import { type AlphaSource, SurveyRun } from '../survey-run.ts';
import type { Cure } from './cure.ts';
import { curesOf } from './cures-of.ts';

/** A cure, and what would then be wrong that was not before, or is worse by more than a tenth. */
export interface ProvenCure {
  readonly cure: Cure;
  readonly causes: readonly Finding[];
}

const WORSE = 1.1;

/**
 * Surveys the shot anew with each cure of a finding, and yields those that do cure it, one by one; a frame a step, null
 * in between.
 */
export function* provenCures(
  before: SurveyRun,
  findings: readonly Finding[],
  finding: Finding,
  alphaOf: AlphaSource,
  limits: SurveyLimits,
): Generator<ProvenCure | null> {
  const { scene } = before.rows;
  const known = new Map(findings.map((one) => [one.id, one]));
  for (const cure of curesOf(scene, finding)) {
    yield null;
    const run = new SurveyRun(cure.scene, alphaOf, before);
    while (run.step()) yield null;
    const after = findingsOf(run.rows, limits).filter(({ grade }) => grade === 'wrong');
    if (after.some(({ id }) => id === finding.id)) continue;
    yield { cure, causes: after.filter((one) => isNew(one, known.get(one.id))) };
  }
}

const isNew = (finding: Finding, before: Finding | undefined): boolean =>
  before === undefined || before.grade === 'advice' || finding.measured > before.measured * WORSE;
