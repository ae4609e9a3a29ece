// Before anything else: whoever asked may be gone while this still loads, and nobody else would end it. Not
// process.exit, which waits for decoders at work.
const end = () => process.kill(process.pid, 'SIGKILL');
process.on('disconnect', end);
if (!process.connected) end();

const { ownCode } = await import('./own-code.mjs');
await ownCode('art-process');
