export { type StageChoice, type StageColumn, stageColumns, WHOLE_STAGE } from './columns.ts';
export { stageCsv } from './stage-csv.ts';
export {
  STAGE_DATA_VERSION,
  type StageData,
  stageDataJsonSchema,
  stageDataSchema,
  stageJson,
} from './stage-json.ts';
