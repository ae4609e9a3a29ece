// The process starts without the loader that its parent registered, so it brings its own.
import { register } from 'tsx/esm/api';

register();
await import('./art-process.ts');
