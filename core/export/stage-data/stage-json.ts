import { z } from 'zod';
import { planeIdSchema, type Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { sampleShot } from '../../staging/sample/index.ts';
import { STAGE_UNITS, type StageChoice, stageColumns, WHOLE_STAGE } from './columns.ts';
import { titlesOf } from './titles.ts';

export const STAGE_DATA_VERSION = 1;

const columnSchema = z.strictObject({
  title: z.string().describe('As the CSV has it: unique in the file.'),
  of: z.enum(['camera', 'plane', 'pin']),
  plane: planeIdSchema.nullable().describe('Id of the plane; null for the camera.'),
  pin: z.string().nullable().describe('Name of the pin; null where it is none.'),
  name: z.string(),
  unit: z.enum(STAGE_UNITS),
});

/** Stage data as they leave: a table whose columns are described, a row a frame. */
export const stageDataSchema = z.strictObject({
  format: z.literal('keen-ridge-stage-data'),
  version: z.literal(STAGE_DATA_VERSION),
  shot: z.string(),
  frame: z.strictObject({ widthPx: z.int(), heightPx: z.int() }),
  rate: z.strictObject({ num: z.int(), den: z.int() }).describe('Frames a second, as a fraction.'),
  homeDistanceSpx: z.number(),
  planes: z.array(
    z.strictObject({ id: planeIdSchema, name: z.string() }).describe('Planes as the Stand lists them.'),
  ),
  columns: z.array(columnSchema),
  rows: z
    .array(z.tuple([z.int()], z.union([z.number(), z.string(), z.null()])))
    .describe('The number of the frame, from 1; then a value a column, null where there is none.'),
});

export type StageData = z.infer<typeof stageDataSchema>;

/** The JSON Schema that is published beside the formats. */
export const stageDataJsonSchema = (): object => ({
  title: 'Keen Ridge stage data',
  ...z.toJSONSchema(stageDataSchema, { target: 'draft-2020-12' }),
});

const valueText = (value: number | string): string =>
  typeof value === 'number' && Number.isNaN(value) ? 'null' : JSON.stringify(value);

/** The shot's stage data as JSON text in parts, a line a frame. */
export function* stageJson(scene: Scene, shot: string, choice: StageChoice = WHOLE_STAGE): Generator<string> {
  const columns = stageColumns(scene, sampleShot(scene)!, choice);
  const titles = titlesOf(scene, columns);
  const { frame, rate, homeDistanceSpx } = scene;
  const head: Omit<StageData, 'rows'> = {
    format: 'keen-ridge-stage-data',
    version: STAGE_DATA_VERSION,
    shot,
    frame,
    rate,
    homeDistanceSpx,
    planes: planesOf(scene)
      .filter(({ id }) => choice.planes === null || choice.planes.includes(id))
      .map(({ id, name }) => ({ id, name })),
    columns: columns.map(({ plane, pin, name, unit }, i) => ({
      title: titles[i]!,
      of: plane === null ? 'camera' : pin === null ? 'plane' : 'pin',
      plane,
      pin,
      name,
      unit,
    })),
  };
  yield `${JSON.stringify(head, null, 2).slice(0, -2)},\n  "rows": [\n`;
  for (let at = 1; at <= scene.lengthFrames; at++) {
    const row = [String(at), ...columns.map((column) => valueText(column.at(at)))];
    yield `    [${row.join(',')}]${at < scene.lengthFrames ? ',' : ''}\n`;
  }
  yield '  ]\n}\n';
}
