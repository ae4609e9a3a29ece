import { writeFileSync } from 'node:fs';
import { layoutAssembly } from '../core/kernel/layer-layout.ts';

writeFileSync(new URL('../core/kernel/assembly/layout.ts', import.meta.url), layoutAssembly());
