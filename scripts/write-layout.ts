import { writeFileSync } from 'node:fs';
import { layoutAssembly } from '@keen-ridge/core/kernel';

writeFileSync(new URL('../core/kernel/assembly/layout.ts', import.meta.url), layoutAssembly());
