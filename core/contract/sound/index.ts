export {
  LARGEST_SOUND_BYTES,
  PEAKS_PER_SECOND,
  SOUND_KINDS,
  SOUND_TYPES,
  type SoundKind,
  soundAnswerSchema,
  soundKindOf,
  soundQuerySchema,
} from './sound.ts';
