import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { stageDataJsonSchema } from '@keen-ridge/core/export/stage-data';
import { sceneJsonSchema } from '@keen-ridge/core/scene';

const write = (name: string, schema: unknown) =>
  writeFileSync(
    fileURLToPath(new URL(`../docs/${name}`, import.meta.url)),
    `${JSON.stringify(schema, null, 2)}\n`,
  );
write('scene.schema.json', sceneJsonSchema());
write('stage-data.schema.json', stageDataJsonSchema());
