import { type Finding, isLeftSo } from '@keen-ridge/core/survey';
import { findingSentence, findingTitle, type Names } from '@keen-ridge/core/words';

const cell = (value: string | number): string => {
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

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
  return [head, ...lines]
    .map((line) => line.map(cell).join(','))
    .join('\r\n')
    .concat('\r\n');
}

/** Saves the findings as a file of the browser. */
export function saveCsv(shotName: string, findings: readonly Finding[], leftSo: LeftSo, names: Names): void {
  const url = URL.createObjectURL(new Blob([findingsCsv(findings, leftSo, names)], { type: 'text/csv' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `${shotName.replace(/[^\p{L}\p{N}_-]+/gu, '_')}_survey.csv`;
  link.click();
  URL.revokeObjectURL(url);
}
