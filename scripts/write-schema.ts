import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { sceneJsonSchema } from '@keen-ridge/core/scene';

const path = fileURLToPath(new URL('../docs/scene.schema.json', import.meta.url));
writeFileSync(path, `${JSON.stringify(sceneJsonSchema(), null, 2)}\n`);
