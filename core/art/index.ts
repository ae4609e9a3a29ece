export {
  ART_FAULT_CODES,
  type ArtFault,
  NOT_KEPT_CODES,
  type NotKept,
  type NotKeptCode,
} from './not-kept.ts';
