export { secondsIntoSound, waveColumns } from './sound-time.ts';
