export {
  LARGEST_SOUND_BYTES,
  LONGEST_SOUND_SECONDS,
  PEAKS_PER_SECOND,
  soundAnswerSchema,
  soundQuerySchema,
} from './sound.ts';
