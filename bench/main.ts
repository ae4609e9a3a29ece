import { benchArchive } from './archive/main.ts';
import { benchFaults } from './faults/main.ts';
import { benchFill } from './fill/main.ts';
import { benchGrowth } from './growth/main.ts';
import { benchHandOff } from './hand-off/main.ts';
import { benchImport } from './import/main.ts';
import { benchInteract } from './interact/main.ts';
import { benchLoad } from './load/main.ts';
import { benchMemory } from './memory/main.ts';
import { benchMutations } from './mutations/main.ts';
import { benchQuality } from './quality/main.ts';
import { benchRender } from './render/main.ts';
import { benchSample } from './sample/main.ts';
import { benchSurvey } from './survey/main.ts';

const BENCHES: Readonly<Record<string, (json: boolean) => Promise<void>>> = {
  archive: benchArchive,
  faults: benchFaults,
  fill: benchFill,
  growth: benchGrowth,
  'hand-off': benchHandOff,
  import: benchImport,
  interact: benchInteract,
  load: benchLoad,
  memory: benchMemory,
  mutations: benchMutations,
  quality: benchQuality,
  render: benchRender,
  sample: benchSample,
  survey: benchSurvey,
};

/** `npm run bench -- render [--json]`; without a name all of them. */
export async function main(args: readonly string[]): Promise<number> {
  const names = args.filter((arg) => !arg.startsWith('--'));
  const unknown = names.find((name) => !(name in BENCHES));
  if (unknown !== undefined) {
    console.error(`${unknown}: no such bench; there are ${Object.keys(BENCHES).join(', ')}`);
    return 2;
  }
  for (const name of names.length > 0 ? names : Object.keys(BENCHES))
    await BENCHES[name]?.(args.includes('--json'));
  return 0;
}
