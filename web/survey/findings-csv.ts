import { csvOf, type Finding, isLeftSo } from '@keen-ridge/core/survey';
import { findingSentence, findingTitle, type Names } from '@keen-ridge/core/words';
import { saveFile } from '../api/download.ts';

type LeftSo = Parameters<typeof isLeftSo>[1];

/** The findings as a table, CSV as RFC 4180 has it. */
export function findingsCsv(findings: readonly Finding[], leftSo: LeftSo, names: Names): string {
  const head = [
    'what',
    'kind',
    'state',
    'first frame',
    'worst frame',
    'last frame',
    'measured',
    'limit',
    'means',
  ];
  const lines = findings.map((finding) => [
    findingTitle(finding, names),
    finding.code,
    finding.grade === 'advice' ? 'advice' : isLeftSo(finding, leftSo) ? 'left so' : 'open',
    finding.firstFrame,
    finding.worstFrame,
    finding.lastFrame,
    Number(finding.measured.toFixed(3)),
    Number(finding.limit.toFixed(3)),
    findingSentence(finding),
  ]);
  return csvOf([head, ...lines]);
}

/** Saves a table as a file of the browser, named after the shot. */
export const saveCsv = (shotName: string, what: string, csv: string): void =>
  saveFile(
    `${shotName.replace(/[^\p{L}\p{N}_-]+/gu, '_')}_${what}.csv`,
    new Blob([csv], { type: 'text/csv' }),
  );
