// Before anything else: whoever asked may be gone while this still loads, and nobody else would end it. Not
// process.exit, which waits for decoders at work.
const end = () => process.kill(process.pid, 'SIGKILL');
process.on('disconnect', end);
if (!process.connected) end();

// The process starts without the loader that its parent registered, so it brings its own.
import { register } from 'tsx/esm/api';

register();
await import('./art-process.ts');
