import { describe, expect, it } from 'vitest';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { setCamera } from '../edits/keys/index.ts';
import type { Scene } from '../scene/index.ts';
import { alphaOf, painted, panned, shot, sky, whole } from '../testing/painted-planes.ts';
import { provenCures } from './cures/prove.ts';
import { USUAL_LIMITS } from './finding.ts';
import { findingsOf } from './findings.ts';
import { SurveyRun } from './survey-run.ts';

const ended = (scene: Scene, older: SurveyRun | null = null): SurveyRun => {
  const run = new SurveyRun(scene, alphaOf, older);
  while (run.step());
  return run;
};
/** A scene as it comes out of a message: equal, and none of its objects the same. */
const sent = (scene: Scene): Scene => structuredClone(scene);

/** A crest with a notch behind a tree, and a shape of the sky's: every kind of row is in it. */
function staged(): Scene {
  const hill = painted('hill', [420, 200], (x, y) => y >= 100 && !(x >= 190 && x < 230));
  const tree = painted('tree', [30, 200], whole, { depthSpx: -100 });
  return panned(shot([tree, hill, sky()]), 30);
}

describe('a survey after an edit', () => {
  it('looks at the frames that changed, and says what one from nothing says', () => {
    const scene = setCamera(staged(), { panX: 15 }, { frame: 21, keying: true });
    const first = ended(scene);
    expect([first.looked, findingsOf(first.rows).length]).toEqual([41, findingsOf(ended(scene).rows).length]);
    const further = setCamera(scene, { panX: 90 }, { frame: 41, keying: true });
    const again = ended(sent(further), first);
    // From the key at 21 on; that frame itself is as it was.
    expect(again.looked).toBeLessThanOrEqual(20);
    expect(findingsOf(again.rows)).toEqual(findingsOf(ended(further).rows));
    expect(again.rows.planes).toEqual(ended(further).rows.planes);
    expect(findingsOf(again.rows)).not.toEqual(findingsOf(first.rows));
  });

  it('takes everything over where nothing in the picture changed', () => {
    const scene = staged();
    const first = ended(scene);
    const again = ended(sent({ ...scene, markers: [] } as unknown as Scene), first);
    expect(again.looked).toBe(0);
    expect(again.rows.planes).toEqual(first.rows.planes);
    expect(findingsOf(again.rows)).toEqual(findingsOf(first.rows));
  });

  it('looks at every frame again where what is bare at the set-up frame may be another', () => {
    const scene = staged();
    const first = ended(scene);
    const [treeId] = scene.order;
    const moved = setPlaneDepth(scene, treeId!, { depthSpx: -60, atFrame: 1, holdPicture: false });
    const again = ended(sent(moved), first);
    expect(again.looked).toBe(41);
    expect(findingsOf(again.rows)).toEqual(findingsOf(ended(moved).rows));
  });
});

describe('cures', () => {
  it('are surveyed before they are offered, and say what they would cause', () => {
    // 10 px are spare and the pan is 60: larger by 220 / 170 it would be covered, and soft.
    const hill = painted('hill', [340, 200], whole);
    const run = ended(panned(shot([hill, sky()]), 60));
    const findings = findingsOf(run.rows);
    const edge = findings.find(({ code }) => code === 'edge')!;
    const proven = [...provenCures(run, findings, edge, alphaOf, USUAL_LIMITS)].filter((one) => one !== null);
    const causes = Object.fromEntries(
      proven.map(({ cure, causes: found }) => [cure.kind, found.map(({ code }) => code)]),
    );
    expect(causes).toEqual({ size: ['soft'], stop: [], repeat: [] });
    // The pan may go as far as paint is spare.
    const stop = proven.find(({ cure }) => cure.kind === 'stop')?.cure;
    expect(stop?.kind === 'stop' && stop.value).toBeCloseTo(11, 2);
  });
});
