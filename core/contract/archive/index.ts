export {
  ARCHIVE_VERSION,
  type Archive,
  archiveQuerySchema,
  archiveSchema,
  archiveWishSchema,
  LARGEST_ARCHIVE_BYTES,
  type OpenedArchive,
  openedArchiveSchema,
  PRODUCTION_PART,
  type ShotHistory,
  shotHistorySchema,
} from './archive.ts';
