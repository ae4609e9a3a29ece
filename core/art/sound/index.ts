export {
  isSoundPart,
  SOUND_KINDS,
  SOUND_TYPES,
  type SoundKind,
  soundKindOf,
  soundPart,
  soundParts,
} from './sound.ts';
