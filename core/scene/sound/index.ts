export { type Sound, type SoundId, soundIdSchema, soundSchema } from './sound.ts';
