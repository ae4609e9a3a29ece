import { describe, expect, it } from 'vitest';
import { makeTrack } from '../edits/camera/index.ts';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { easeSelected, setCamera, smoothSelected } from '../edits/keys/index.ts';
import { setGrade } from '../edits/look/index.ts';
import { leaveSo, openAgain } from '../edits/shot/index.ts';
import { applyAffine } from '../geometry/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { keysOf, recordOf } from '../scene/records/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { channelId } from '../staging/index.ts';
import { testPlaneId } from '../testing/index.ts';
import { alphaOf, FRAME, painted, panned, shot, sky, whole } from '../testing/painted-planes.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { curesOf } from './cures/cures-of.ts';
import { clearanceAcross, depthFromArt } from './depth-from-art.ts';
import type { Finding, FindingOf, SurveyCode } from './finding.ts';
import { findingsOf, openFindings } from './findings.ts';
import { surveyRows } from './survey-run.ts';

const survey = (scene: Scene): Finding[] => findingsOf(surveyRows(scene, alphaOf));
const only = <C extends SurveyCode>(scene: Scene, code: C): FindingOf<C>[] =>
  survey(scene).filter((finding): finding is FindingOf<C> => finding.code === code);
describe('edges', () => {
  it('are measured by hand: 20 px spare, 40 px of pan', () => {
    const hill = painted('hill', [360, 200], whole);
    const [edge, ...more] = only(panned(shot([hill, sky()]), 40), 'edge');
    expect(more).toEqual([]);
    // At frame f the pan is f − 1: from frame 22 on a px and more of the east end stands in the frame, 20 px at the last.
    expect(edge).toMatchObject({
      side: 'right',
      artSide: 'right',
      firstFrame: 22,
      worstFrame: 41,
      lastFrame: 41,
      paintArtPx: 20,
    });
    expect(edge?.measured).toBeCloseTo(20, 5);
    expect(edge?.areaPx).toBeCloseTo(20 * 180, 0);
  });

  it('are none behind a nearer plane that hides them, nor where the border has no paint', () => {
    const hill = painted('hill', [360, 200], whole);
    const wall = painted('wall', [80, 200], whole, { mount: { on: 'camera' } });
    const east = { ...wall, transform: { ...wall.transform, xSpx: 140 } };
    expect(only(panned(shot([east, hill, sky()]), 40), 'edge')).toEqual([]);
    const half = painted('half', [360, 200], (_, y) => y >= 150);
    const [edge] = only(panned(shot([half, sky()]), 40), 'edge');
    // Paint from 50 px under the middle down: in the frame 40 px high.
    expect(Math.abs(edge!.areaPx - 20 * 40)).toBeLessThanOrEqual(20 * 4);
  });

  it('are none of a small picture that stands in the frame, of a tightly cut house, or of a horizon', () => {
    const gif = painted('gif', [60, 40], whole);
    const house = painted('house', [90, 70], (x, y) => y >= 20 || Math.abs(x - 45) < y);
    const sea = painted('sea', [400, 120], whole, {});
    const low = { ...sea, transform: { ...sea.transform, ySpx: 60 } };
    expect(only(panned(shot([gif, house, low, sky()]), 100), 'edge').map(({ artSide }) => artSide)).toEqual([
      'right',
    ]);
    expect(only(panned(shot([gif, house, sky()]), 100), 'edge')).toEqual([]);
  });

  it('of a painting turned by 12° are told, and the corners that it leaves bare to the px', () => {
    const painting = painted('turned', [330, 260], whole);
    const turned = { ...painting, transform: { ...painting.transform, rotationDeg: 12 } };
    const scene = shot([turned], { lengthFrames: 1 });
    const edges = only(scene, 'edge');
    expect(edges.map(({ artSide }) => artSide).sort()).toEqual(['left', 'right']);
    for (const { measured } of edges)
      expect(measured).toBeCloseTo(160 * Math.cos(Math.PI / 15) + 90 * Math.sin(Math.PI / 15) - 165, 4);
    const [hole] = only(scene, 'hole');
    // Counted px by px, in sixteenths.
    let bare = 0;
    const [cos, sin] = [Math.cos(Math.PI / 15), Math.sin(Math.PI / 15)];
    for (let y = 0.125; y < 180; y += 0.25)
      for (let x = 0.125; x < 320; x += 0.25) {
        const [dx, dy] = [x - 160, y - 90];
        if (Math.abs(dx * cos + dy * sin) > 165 || Math.abs(dy * cos - dx * sin) > 130) bare += 1 / 16;
      }
    expect(bare).toBeGreaterThan(100);
    // To a cell's border: a diagonal of 180 px is 45 cells long, each may be half off.
    expect(Math.abs((hole?.measured ?? 0) - bare)).toBeLessThan(0.15 * bare + 16);
  });

  it('end with each cure that is offered, and no other side is worse', () => {
    const hill = painted('hill', [400, 200], whole);
    const west = { ...hill, transform: { ...hill.transform, xSpx: -30 } };
    const scene = panned(shot([west, sky()]), 20);
    const [edge] = only(scene, 'edge');
    const cures = curesOf(scene, edge!);
    expect(cures.map(({ kind }) => kind)).toEqual(['size', 'slide', 'depth', 'stop', 'repeat']);
    // 20 px are spare less the 30 that it stands west: the pan of 20 must end at 10.
    expect(cures.find(({ kind }) => kind === 'stop')).toMatchObject({ channel: 'camera/panX' });
    for (const cure of cures) expect(only(cure.scene, 'edge')).toEqual([]);
    // 200 px reach east from the anchor and 10 are missing: 1.05 times as large.
    expect(cures[0]).toMatchObject({ kind: 'size' });
    expect((cures[0] as { percent: number }).percent).toBeCloseTo(105.05, 1);
  });
});

describe('what is laid over by light', () => {
  it('hides nothing: an edge behind rain is wrong as if there were none, and a stage of lamps alone is a hole', () => {
    const hill = painted('hill', [360, 200], whole);
    const rain = painted('rain', [400, 220], whole, { depthSpx: -10, mode: 'screen' });
    const bare = only(panned(shot([hill, sky()]), 40), 'edge');
    expect(
      only(panned(shot([rain, hill, sky()]), 40), 'edge').filter(({ planeId }) => planeId === 'hill'),
    ).toEqual(bare);
    const paint = { ...rain, mode: 'paint' as const };
    expect(
      only(panned(shot([paint, hill, sky()]), 40), 'edge').filter(({ planeId }) => planeId === 'hill'),
    ).toEqual([]);
    expect(only(shot([rain]), 'hole')).toHaveLength(1);
  });
});

describe('a soft edge', () => {
  it('lets through what it takes of the paint: a strip of half the width on the frame at each side that is cut', () => {
    const wall = painted('wall', [320, 180], whole, {
      grade: { brightness: 1, saturation: 1, tint: '#ffffff', tintStrength: 0, blurPx: 0, softEdgePx: 20 },
    });
    const [hole] = only(shot([wall]), 'hole');
    // The ramp is half a px short of its half at the mean: 20/2 px all round, less the corners that two of them share.
    const open = 320 * 180 - (320 - 20) * (180 - 20);
    expect(Math.abs(hole!.measured / open - 1)).toBeLessThan(0.06);
    expect(only(shot([{ ...wall, grade: null }]), 'hole')).toEqual([]);
    expect(only(shot([{ ...wall, repeat: 'both' as const }]), 'hole')).toEqual([]);
  });
});

describe('holes', () => {
  it('are as large as what is not covered, at their worst frame', () => {
    const ground = painted('ground', [320, 180], whole);
    const scene = panned(shot([ground]), 40);
    const [hole] = only(scene, 'hole');
    // It begins a px wide on frame 2; cells of 4 px tell it as soon as one of them is bare in its middle.
    expect(hole?.firstFrame).toBeLessThanOrEqual(4);
    expect(hole?.worstFrame).toBeGreaterThanOrEqual(39);
    expect(hole).toMatchObject({ box: { x0: 280, y0: 0, x1: 320, y1: 180 } });
    expect(hole?.measured).toBeCloseTo(40 * 180, 0);
    expect(only(shot([]), 'hole')).toEqual([]);
  });
});

describe('reveals', () => {
  /** A tree 40 px wide that slides off by 60 px against the hill. */
  const tree = () => painted('tree', [20, 200], whole, { depthSpx: -160 });
  const behindTree = (x: number) => x > 180 && x < 220;
  const hill = (paint: (x: number, y: number) => boolean) => painted('hill', [400, 200], paint);

  it('are the crest that goes on behind a tall tree, and not the sky over it', () => {
    const bare = hill((x, y) => y >= 100 && !behindTree(x));
    const [reveal] = only(panned(shot([tree(), bare, sky()]), 60), 'reveal');
    expect(reveal).toMatchObject({ planeId: 'hill', byId: 'tree', grade: 'wrong' });
    // 40 px wide, from the crest to the lower border of the frame: 90 px. Cells of 2.5 px.
    expect(Math.abs((reveal?.measured ?? 0) - 40 * 90)).toBeLessThan(0.15 * 3600);
    expect(reveal?.box.y0).toBeGreaterThanOrEqual(95);
    // All of it shows once the tree has slid 40 of its 60 px: at two thirds of the 40 frames, less the half of a cell.
    expect(reveal?.worstFrame).toBeGreaterThanOrEqual(24);
    expect(reveal?.worstFrame).toBeLessThanOrEqual(28);
    const covered = hill((_, y) => y >= 100);
    expect(only(panned(shot([tree(), covered, sky()]), 60), 'reveal')).toEqual([]);
  });

  it('are none while the tree hides it all through, nor a window that is seen open', () => {
    const bare = hill((x, y) => y >= 100 && !behindTree(x));
    expect(only(panned(shot([tree(), bare, sky()]), 0), 'reveal')).toEqual([]);
    const window = hill((x, y) => !(x > 250 && x < 290 && y > 110 && y < 150));
    expect(only(panned(shot([tree(), window, sky()]), 60), 'reveal')).toEqual([]);
  });

  it('are a notch that is open to the foot of the art too', () => {
    const notch = hill((x, y) => !(behindTree(x) && y > 60));
    const [reveal] = only(panned(shot([tree(), notch, sky()]), 60), 'reveal');
    expect(reveal?.grade).toBe('wrong');
  });

  it('of a net are told as advice', () => {
    const net = hill((x, y) => x % 40 < 14 || y % 40 < 14);
    const found = only(panned(shot([tree(), net, sky()]), 60), 'reveal');
    expect(found.every(({ grade }) => grade === 'advice')).toBe(true);
  });
});

describe('sharpness and pace', () => {
  const plane = () => painted('wall', [900, 500], whole);

  it('is soft where a painted px is larger than one of the film, and not where it is blurred by more', () => {
    const zoomed = setCamera(shot([plane()]), { zoom: 1.5 }, { frame: 1, keying: false });
    const [soft] = only(zoomed, 'soft');
    expect(soft).toMatchObject({ grade: 'wrong', paintPercent: 150 });
    expect(soft?.measured).toBeCloseTo(1.5, 5);
    const mild = setCamera(shot([plane()]), { zoom: 1.2 }, { frame: 1, keying: false });
    expect(only(mild, 'soft')[0]?.grade).toBe('advice');
    expect(only(shot([plane()]), 'soft')).toEqual([]);
    expect(only(setGrade(zoomed, new Set([testPlaneId('wall')]), { blurPx: 3 }), 'soft')).toEqual([]);
  });

  it('is too fast past 7 s to cross the frame: 320 px at 24 a second are 1.905 px a frame', () => {
    expect(only(panned(shot([plane()]), 76), 'pace')).toEqual([]);
    const [pace] = only(panned(shot([plane()]), 80), 'pace');
    expect(pace?.measured).toBeCloseTo(2, 5);
    expect(pace?.limit).toBeCloseTo(320 / 168, 9);
    expect(pace?.crossingSeconds).toBeCloseTo(320 / 48, 5);
    const [cure] = curesOf(panned(shot([plane()]), 80), pace!);
    expect(cure).toMatchObject({ kind: 'longer', frames: 3 });
    expect(only(cure!.scene, 'pace')).toEqual([]);
  });

  it('jumps where a channel stops dead within the shot', () => {
    const from = setCamera(shot([plane()]), { panX: 0 }, { frame: 1, keying: true });
    const to = setCamera(from, { panX: 30 }, { frame: 21, keying: true });
    const keys = keysOf(to.camera.panX).map((key) => ({ ...key, ease: EASE_PRESETS.linear }));
    const dead = { ...to, camera: { ...to.camera, panX: recordOf({ ...to.camera.panX, keys }) } };
    const [jump] = only(dead, 'jump');
    expect(jump).toMatchObject({ channel: 'camera/panX', worstFrame: 21 });
    expect(jump?.measured).toBeCloseTo(1.5, 3);
    expect(only(to, 'jump')).toEqual([]);
    // Seen twice as large it jumps by twice as much, and by half from twice as far.
    const closer = setCamera(dead, { zoom: 2 }, { frame: 1, keying: false });
    expect(only(closer, 'jump')[0]?.measured).toBeCloseTo(3, 3);
    const farther = setCamera(dead, { truck: -dead.homeDistanceSpx }, { frame: 1, keying: false });
    expect(only(farther, 'jump')[0]?.measured).toBeCloseTo(0.75, 3);
  });

  it('jumps where a track passes a key at two speeds, until it is smoothed', () => {
    const base = shot([plane()]);
    const last = base.lengthFrames;
    const keyed = [
      [1, 0],
      [13, 6],
      [last, 6 + 3 * (last - 13)],
    ].reduce(
      (scene, [frame, panX]) => setCamera(scene, { panX: panX! }, { frame: frame!, keying: true }),
      base,
    );
    const tracked = makeTrack(keyed, { on: 'camera' })!;
    const keys = new Map([[channelId({ on: 'camera', name: 'track' }), new Set([1, 13, last])]]);
    // 0.5 spx a frame, then 3.
    const [jump] = only(easeSelected(tracked, keys, EASE_PRESETS.linear), 'jump');
    expect(jump).toMatchObject({ channel: 'camera/track', worstFrame: 13 });
    expect(jump?.measured).toBeCloseTo(2.5, 2);
    expect(only(smoothSelected(tracked, keys), 'jump')).toEqual([]);
  });
});

describe('planes among planes', () => {
  it('slip by the difference of their slides: 40 spx of pan, ground at 320/400', () => {
    const figure = painted('figure', [20, 60], whole);
    const ground = painted('ground', [900, 160], whole, { depthSpx: 80 });
    const lower = { ...ground, transform: { ...ground.transform, ySpx: 90, scaleX: 1.25, scaleY: 1.25 } };
    const [slip] = only(panned(shot([figure, lower, sky()]), 40), 'slip');
    expect(slip ?? null).toBeNull();
    const far = panned(shot([figure, lower, sky()]), 100);
    const [found] = only(far, 'slip');
    expect(found).toMatchObject({ planeId: 'figure', onId: 'ground', limit: 12, worstFrame: 41 });
    expect(found?.measured).toBeCloseTo(100 * (1 - 320 / 400), 4);
    for (const cure of curesOf(far, found!)) expect(only(cure.scene, 'slip')).toEqual([]);
  });

  it('that abut let what is behind through by f·(1 − f) at f px between the px, and overlap by a px as the cure', () => {
    const beside = (name: string, xSpx: number, part: Partial<Plane> = {}) => {
      const plane = painted(name, [100, 80], whole, part);
      return { ...plane, transform: { ...plane.transform, xSpx } };
    };
    const walls = shot([beside('east', 50), beside('west', -50), sky()]);
    // 20 px over 40 frames: on every second frame the border lies in the middle of a px.
    const [seam, ...more] = only(panned(walls, 20), 'seam');
    expect(more).toEqual([]);
    expect(seam).toMatchObject({
      grade: 'advice',
      planeId: 'west',
      besideId: 'east',
      artSide: 'right',
      firstFrame: 2,
      lastFrame: 40,
    });
    expect(seam?.measured).toBeCloseTo(0.25, 9);
    const [cure, ...others] = curesOf(panned(walls, 20), seam!);
    expect(others).toEqual([]);
    expect(cure?.kind).toBe('overlap');
    expect(only(cure!.scene, 'seam')).toEqual([]);
    // Its other side is where it was: the art's 100 px begin 100 px west of the middle, and end a px east of it.
    const { artToFrame } = framePlan(cure!.scene, 1).planes.find(({ planeId }) => planeId === 'west')!;
    const ends = [0, 100].map((x) => applyAffine(artToFrame!, { x, y: 0 }).x - FRAME.widthPx / 2);
    expect(ends[0]).toBeCloseTo(-100, 9);
    expect(ends[1]).toBeCloseTo(1, 9);
  });

  it('abut nowhere on whole px, apart, over each other, or where only their boxes meet', () => {
    const beside = (name: string, xSpx: number, part: Partial<Plane> = {}) => {
      const plane = painted(name, [100, 80], whole, part);
      return { ...plane, transform: { ...plane.transform, xSpx } };
    };
    expect(only(panned(shot([beside('east', 50), beside('west', -50), sky()]), 40), 'seam')).toEqual([]);
    expect(only(panned(shot([beside('east', 52), beside('west', -50), sky()]), 20), 'seam')).toEqual([]);
    expect(only(panned(shot([beside('east', 48), beside('west', -50), sky()]), 20), 'seam')).toEqual([]);
    const above = painted('above', [100, 40], whole);
    const high = { ...above, transform: { ...above.transform, xSpx: 150, ySpx: -80 } };
    expect(only(panned(shot([high, beside('west', -50), sky()]), 20), 'seam')).toEqual([]);
  });

  it('look flat where neighbours slide alike, are never seen behind others, or are passed at once', () => {
    const near = painted('near', [100, 50], whole);
    const far = painted('far', [100, 50], whole, { depthSpx: 2 });
    const apart = [
      { ...near, transform: { ...near.transform, xSpx: -80 } },
      { ...far, transform: { ...far.transform, xSpx: 60 } },
    ];
    const [flat] = only(panned(shot([...apart, sky()]), 40), 'flat');
    expect(flat).toMatchObject({ grade: 'advice', planeId: 'far', besideId: 'near' });
    expect(flat?.measured).toBeCloseTo(40 * (1 - 320 / 322), 3);
    const wall = painted('wall', [400, 300], whole, { depthSpx: -20 });
    expect(only(shot([wall, near]), 'unseen')).toMatchObject([{ planeId: 'near', why: 'behind' }]);
    const away = { ...near, transform: { ...near.transform, xSpx: 900 } };
    expect(only(shot([wall, away]), 'unseen')).toMatchObject([{ planeId: 'near', why: 'outside' }]);
    const trucked = setCamera(
      setCamera(shot([wall, sky()]), { truck: 0 }, { frame: 1, keying: true }),
      { truck: 310 },
      { frame: 41, keying: true },
    );
    const [pass] = only(trucked, 'pass');
    expect(pass).toMatchObject({ planeId: 'wall' });
    const [fade] = curesOf(trucked, pass!);
    expect(only(fade!.scene, 'pass')).toEqual([]);
  });
});

describe('the depth that a painting is made for', () => {
  it('is where its ends are just out of frame at the end of the move: by hand', () => {
    // 360 px wide in a frame of 320 and a pan of 80: 20 spare in the east are a slide of 20 of 80, a quarter.
    const hill = painted('hill', [360, 200], whole);
    const scene = panned(shot([hill]), 80);
    const depth = depthFromArt(scene, testPlaneId('hill'), 0)!;
    expect(320 / (320 + depth)).toBeCloseTo(0.25, 5);
    const held = setPlaneDepth(scene, testPlaneId('hill'), {
      depthSpx: depth,
      atFrame: 1,
      holdPicture: true,
    });
    expect(clearanceAcross(held, testPlaneId('hill'))).toBeCloseTo(0, 4);
    // Two px spare: a slide of 18 of 80.
    expect(320 / (320 + depthFromArt(scene, testPlaneId('hill'), 2)!)).toBeCloseTo(18 / 80, 5);
  });

  it('is none of a plane without ends, of one that is too narrow already, or that rides', () => {
    const scene = (plane: Plane) => panned(shot([plane]), 80);
    const id = testPlaneId('hill');
    const hill = painted('hill', [360, 200], whole);
    expect(depthFromArt(scene({ ...hill, repeat: 'across' }), id, 0)).toBeNull();
    expect(depthFromArt(scene(painted('hill', [300, 200], whole)), id, 0)).toBeNull();
    expect(depthFromArt(scene({ ...hill, mount: { on: 'camera' } }), id, 0)).toBeNull();
  });
});

describe('what is left so', () => {
  it('stays so until it has grown by a tenth', () => {
    const hill = painted('hill', [360, 200], whole);
    const scene = panned(shot([hill, sky()]), 40);
    const findings = survey(scene);
    const edge = findings.find(({ code }) => code === 'edge')!;
    const left = leaveSo(scene, edge.id, 'hidden by the frame of the page', edge.measured);
    expect(openFindings(findings, left.survey?.leftSo)).not.toContain(edge);
    const grown = (by: number) =>
      openFindings([{ ...edge, measured: edge.measured * by } as Finding], left.survey?.leftSo);
    expect([grown(1.09).length, grown(1.11).length]).toEqual([0, 1]);
    expect(openFindings(findings, openAgain(left, edge.id).survey?.leftSo)).toContain(edge);
  });
});
