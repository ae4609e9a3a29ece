import type { Scene } from '../../scene/index.ts';
import { sampleShot } from '../../staging/sample/index.ts';
import { type StageChoice, stageColumns, WHOLE_STAGE } from './columns.ts';
import { titlesOf } from './titles.ts';

/** A cell as RFC 4180 has it. */
const cell = (value: string | number): string =>
  typeof value === 'number'
    ? Number.isNaN(value)
      ? ''
      : String(value)
    : /[",\n\r]/.test(value)
      ? `"${value.replaceAll('"', '""')}"`
      : value;

const line = (cells: readonly (string | number)[]): string => `${cells.map(cell).join(',')}\r\n`;

/** The shot as CSV (RFC 4180), line by line, a frame each: what `stageColumns` tells. */
export function* stageCsv(scene: Scene, choice: StageChoice = WHOLE_STAGE): Generator<string> {
  const columns = stageColumns(scene, sampleShot(scene)!, choice);
  yield line(['frame', ...titlesOf(scene, columns)]);
  for (let frame = 1; frame <= scene.lengthFrames; frame++)
    yield line([frame, ...columns.map(({ at }) => at(frame))]);
}
