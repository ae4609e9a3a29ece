export {
  EXPORT_KINDS,
  type ExportKind,
  type ExportQuery,
  exportQuerySchema,
  SHEET_PAPERS,
  type SheetPaper,
} from './export.ts';
