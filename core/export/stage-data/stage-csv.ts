import type { Scene } from '../../scene/index.ts';
import { sampleShot } from '../../staging/sample/index.ts';
import { csvLine } from '../csv.ts';
import { type StageChoice, stageColumns, WHOLE_STAGE } from './columns.ts';
import { titlesOf } from './titles.ts';

/** The shot as CSV (RFC 4180), line by line, a frame each: what `stageColumns` tells. */
export function* stageCsv(scene: Scene, choice: StageChoice = WHOLE_STAGE): Generator<string> {
  const columns = stageColumns(scene, sampleShot(scene)!, choice);
  yield csvLine(['frame', ...titlesOf(scene, columns)]);
  for (let frame = 1; frame <= scene.lengthFrames; frame++)
    yield csvLine([frame, ...columns.map(({ at }) => at(frame))]);
}
