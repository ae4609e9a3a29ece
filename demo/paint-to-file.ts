import { writeFileSync } from 'node:fs';
import { paintLayers } from './paint-demo.ts';

const [path] = process.argv.slice(2);
if (!path) {
  console.error('Say where to: npm run demo:paint -- quay.ora');
  process.exit(2);
}
writeFileSync(path, await paintLayers());
