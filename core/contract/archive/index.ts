export {
  ARCHIVE_VERSION,
  type Archive,
  archiveSchema,
  PRODUCTION_PART,
  type ShotHistory,
  shotHistorySchema,
} from './archive.ts';
export {
  archiveQuerySchema,
  archiveWishSchema,
  LARGEST_ARCHIVE_BYTES,
  type OpenedArchive,
  openedArchiveSchema,
} from './asked.ts';
