import { secondsOfFrames } from '../../timing/index.ts';
import { rationalText } from '../../units/index.ts';
import { csvLine } from '../csv.ts';
import type { ShotEntry } from './shot-entry.ts';

const TITLES = [
  'shot',
  'frames',
  'seconds',
  'rate',
  'width px',
  'height px',
  'planes',
  'open findings',
  'left so',
  'advice',
  'film',
];

/** The shots of a production as CSV (RFC 4180), one a line, in their order. */
export const shotsCsv = (shots: readonly ShotEntry[]): string =>
  [
    csvLine(TITLES),
    ...shots.map(({ name, frame, rate, lengthFrames, planes, findings, film }) =>
      csvLine([
        name,
        lengthFrames,
        Number(secondsOfFrames(lengthFrames, rate).toFixed(3)),
        rationalText(rate),
        frame.widthPx,
        frame.heightPx,
        planes,
        findings.open,
        findings.leftSo,
        findings.advice,
        film?.fileName ?? '',
      ]),
    ),
  ].join('');
