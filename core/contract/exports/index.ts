export {
  EXPORT_KINDS,
  EXPORTS_OF,
  type ExportKind,
  type ExportQuery,
  exportQuerySchema,
  SHEET_PAPERS,
  type SheetPaper,
} from './export.ts';
