export {
  ARCHIVE_VERSION,
  type Archive,
  archiveQuerySchema,
  archiveSchema,
  LARGEST_ARCHIVE_BYTES,
  type OpenedArchive,
  openedArchiveSchema,
  PRODUCTION_PART,
} from './archive.ts';
