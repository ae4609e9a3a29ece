import { edgeFindings } from './checks/edges.ts';
import {
  flatFindings,
  jumpFindings,
  loopFindings,
  paceFindings,
  slipFindings,
  softFindings,
} from './checks/motion.ts';
import { holeFindings, passFindings, revealFindings, unseenFindings } from './checks/pictures.ts';
import { seamFindings } from './checks/seams.ts';
import { type Finding, SURVEY_CODES, type SurveyLimits, USUAL_LIMITS } from './finding.ts';
import type { SurveyRows } from './survey-run.ts';

/** Everything that would go wrong, worst kinds first, each kind by its first frame; advice after what is wrong. */
export function findingsOf(rows: SurveyRows, limits: SurveyLimits = USUAL_LIMITS): Finding[] {
  const all: Finding[] = [
    ...holeFindings(rows),
    ...edgeFindings(rows, limits),
    ...revealFindings(rows),
    ...passFindings(rows),
    ...softFindings(rows, limits),
    ...paceFindings(rows, limits),
    ...slipFindings(rows, limits),
    ...jumpFindings(rows),
    ...loopFindings(rows),
    ...flatFindings(rows),
    ...seamFindings(rows),
    ...unseenFindings(rows),
  ];
  const rank = (finding: Finding) =>
    (finding.grade === 'wrong' ? 0 : SURVEY_CODES.length) + SURVEY_CODES.indexOf(finding.code);
  return all.sort((p, q) => rank(p) - rank(q) || p.firstFrame - q.firstFrame);
}

/** Of an area that is wrong, this share of the frame weighs as much as another fault that is as large as is allowed. */
const AREA_SHARE = 1e-3;

/** How bad a finding is, so that all kinds can be put in one order: in times of what is allowed. */
export function weightOf(
  finding: Finding,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): number {
  const areas = (px: number) => px / (AREA_SHARE * widthPx * heightPx);
  switch (finding.code) {
    case 'edge':
      return areas(finding.areaPx);
    case 'hole':
    case 'reveal':
      return areas(finding.measured);
    default:
      return finding.limit > 0 ? finding.measured / finding.limit : finding.measured;
  }
}

/** A finding that was left so stays so until it has grown by this share. */
const GROWN = 1.1;

/** Whether a finding was left so by the artist and has not grown since by more than a tenth. */
export const isLeftSo = (
  finding: Finding,
  leftSo: Readonly<Record<string, { readonly measured: number }>> | undefined,
): boolean => {
  const left = leftSo?.[finding.id];
  return left !== undefined && finding.measured <= left.measured * GROWN + 1e-9;
};

/** The findings that are wrong and not left so: what the artist still has to look at. */
export const openFindings = (
  findings: readonly Finding[],
  leftSo: Readonly<Record<string, { readonly measured: number }>> | undefined,
): Finding[] => findings.filter((finding) => finding.grade === 'wrong' && !isLeftSo(finding, leftSo));
