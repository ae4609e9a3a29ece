import { setPlaneDepth } from '../../edits/depth/index.ts';
import { easeSelected, smoothSelected } from '../../edits/keys/index.ts';
import { setPassing } from '../../edits/look/index.ts';
import { movePlanesOnFrame, setPlaneMount, setPlaneTransform } from '../../edits/planes/index.ts';
import { closeLoop, setPlanesRepeat } from '../../edits/runs/index.ts';
import { scaleShotLength } from '../../edits/shot/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import type { Side } from '../../image/index.ts';
import { LIMITS, type Plane, type PlaneId, type Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { nearLimitSpx } from '../../stage/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { channelAt, channelRef, posedPlane, stageFrameOf, standingAt } from '../../staging/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import type { Finding, FindingOf } from '../finding.ts';
import { largestScale } from '../largest-scale.ts';
import { type EdgeGap, edgeGaps } from '../margins/edge-gaps.ts';
import { acrossPx, isAcross } from '../margins/margins.ts';
import { fastestSlide } from '../slides.ts';
import { SET_UP_FRAME } from '../survey-run.ts';
import { shorterMove, stoppedMoves } from './camera-cures.ts';
import type { Cure } from './cure.ts';

/** A little more than just enough, so that rounding leaves nothing. */
const SPARE = 1.0005;
/** Depths are searched so far nearer and farther, as a ratio of distances, in so many halvings. */
const DEPTH = { most: 4, halvings: 24 } as const;

/** What would cure a finding; each was measured again, and leaves the plane's other sides no worse than they were. */
export function curesOf(scene: Scene, finding: Finding): Cure[] {
  switch (finding.code) {
    case 'edge':
      return edgeCures(scene, finding);
    case 'slip':
      return [
        ...together(scene, finding.planeId, finding.onId),
        ...mounted(scene, finding.planeId, finding.onId),
      ];
    case 'reveal':
      return finding.byId ? together(scene, finding.planeId, finding.byId) : [];
    case 'pace':
      return [...longer(scene, finding), ...slower(scene, finding)];
    case 'jump': {
      const keys = channelAt(scene, channelRef(finding.channel))?.keys.map(({ frame }) => frame) ?? [];
      const chosen = new Map([[finding.channel, new Set(keys)]]);
      const here = new Map([[finding.channel, new Set(besideKeys(keys, finding.worstFrame))]]);
      return [
        { kind: 'smooth', scene: smoothSelected(scene, chosen) },
        { kind: 'rest', scene: easeSelected(scene, here, EASE_PRESETS['in-out']) },
      ];
    }
    case 'loop':
      return [{ kind: 'close', scene: closeLoop(scene, 'speeds') }];
    case 'pass': {
      const overSpx = scene.homeDistanceSpx / 4;
      return [
        { kind: 'fade', scene: setPassing(scene, new Set([finding.planeId]), { way: 'fade', overSpx }) },
      ];
    }
    case 'soft': {
      const { planeId, limit, worstFrame } = finding;
      const sharp = (next: Scene) => {
        const plane = planeOf(next, planeId);
        return plane !== undefined && largestScale(next, plane) <= limit * SPARE;
      };
      return stoppedMoves(scene, worstFrame, sharp);
    }
    case 'seam':
      return overlapped(scene, finding);
    case 'hole':
    case 'flat':
    case 'unseen':
      return [];
  }
}

/** Keys fall on whole frames, which can leave a little too much: so many times it is made longer still. */
const TRIES = 8;

/** So much longer, every key in its place, that the plane is no longer too fast where it was. */
function longer(
  scene: Scene,
  { planeId, measured, limit, firstFrame, lastFrame }: FindingOf<'pace'>,
): Cure[] {
  let frames = Math.ceil(scene.lengthFrames * (measured / limit));
  for (let i = 0; i < TRIES && frames <= LIMITS.lengthFrames.max; i++) {
    const next = scaleShotLength(scene, frames);
    const at = (frame: number) => 1 + ((frame - 1) * (frames - 1)) / Math.max(1, scene.lengthFrames - 1);
    // It may be seen from between two frames on.
    const seen = [Math.floor(at(firstFrame - 1)), Math.ceil(at(lastFrame + 1))] as const;
    const fastest = fastestSlide(next, planeId, ...seen);
    if (fastest <= limit) return [{ kind: 'longer', frames: frames - scene.lengthFrames, scene: next }];
    frames = Math.max(frames + 1, Math.ceil(frames * (fastest / limit)));
  }
  return [];
}

/** How far each side of a plane stands in the frame at the worst; 0 where it does not. */
function depthsOf(scene: Scene, id: PlaneId): ReadonlyMap<Side, number> {
  const plane = planeOf(scene, id);
  return new Map(plane ? edgeGaps(scene, plane).map(({ artSide, worstPx }) => [artSide, worstPx]) : []);
}

/** Whether an edit cures one side and makes no other of the plane worse. */
function cures(
  before: ReadonlyMap<Side, number>,
  next: Scene,
  id: PlaneId,
  side: Side,
  limit: number,
): boolean {
  const after = depthsOf(next, id);
  if ((after.get(side) ?? 0) >= limit) return false;
  return [...after].every(([other, px]) => other === side || px <= (before.get(other) ?? 0) + limit);
}

function edgeCures(scene: Scene, finding: FindingOf<'edge'>): Cure[] {
  const { planeId, artSide, limit } = finding;
  const plane = planeOf(scene, planeId);
  if (!plane || plane.locked) return [];
  const before = depthsOf(scene, planeId);
  // Over the whole shot, be it hidden at times or not: what hides it may be moved later.
  const gap = edgeGaps(scene, plane).find((one) => one.artSide === artSide);
  if (!gap) return [];
  const works = (next: Scene) => cures(before, next, planeId, artSide, limit);
  const found: Cure[] = [];
  const size = sized(scene, planeId, gap);
  if (size && works(size.scene)) found.push(size);
  const slide = slid(scene, planeId, gap);
  if (works(slide.scene)) found.push(slide);
  const depth = deeper(scene, finding, works);
  if (depth) found.push(depth);
  found.push(...stoppedMoves(scene, gap.worstFrame, works));
  const tiled = repeated(scene, planeId, artSide);
  if (works(tiled.scene)) found.push(tiled);
  return found;
}

/** Tiled along the axis of the side, so that it never ends. */
function repeated(scene: Scene, planeId: PlaneId, artSide: Side): Extract<Cure, { kind: 'repeat' }> {
  const way = isAcross(artSide) ? 'across' : 'down';
  const now = planeOf(scene, planeId)?.repeat ?? 'none';
  const repeat = now === 'none' || now === way ? way : 'both';
  return { kind: 'repeat', repeat, scene: setPlanesRepeat(scene, new Set([planeId]), repeat) };
}

/** The keys whose spans begin or end at a frame: an ease belongs to the key that its span begins at. */
function besideKeys(frames: readonly number[], at: number): number[] {
  const index = frames.indexOf(at);
  return frames.slice(Math.max(0, index - 1), index + 1);
}

/** So much less of the way, in the same time, that the plane is no longer too fast. */
function slower(scene: Scene, { planeId, limit }: FindingOf<'pace'>): Cure[] {
  const cure = shorterMove(
    scene,
    (next) => fastestSlide(next, planeId, 1, next.lengthFrames) <= limit * (1 + 1e-9),
  );
  return cure ? [cure] : [];
}

/** As much larger about its anchor as puts the side out of frame. */
function sized(scene: Scene, planeId: PlaneId, { artSide, paintArtPx }: EdgeGap): Cure | null {
  const plane = planeOf(scene, planeId)!;
  const { painted } = factsOf(plane.content);
  const { transform } = posedPlane(plane, SET_UP_FRAME);
  if (!painted) return null;
  const reach = {
    left: transform.anchorXArtPx - painted.x0,
    right: painted.x1 - transform.anchorXArtPx,
    top: transform.anchorYArtPx - painted.y0,
    bottom: painted.y1 - transform.anchorYArtPx,
  }[artSide];
  if (reach <= 0) return null;
  const ratio = ((reach + paintArtPx) / reach) * SPARE;
  const next = { scaleX: transform.scaleX * ratio, scaleY: transform.scaleY * ratio };
  return { kind: 'size', percent: ratio * 100, scene: setPlaneTransform(scene, planeId, next, SET_UP_FRAME) };
}

/** A px more at one side of the plane behind, all through the shot. */
const OVERLAP_PX = 1;

function overlapped(scene: Scene, { planeId, besideId, artSide }: FindingOf<'seam'>): Cure[] {
  const plane = planeOf(scene, planeId);
  if (!plane || plane.locked) return [];
  const { painted } = factsOf(plane.content);
  const { transform: t } = posedPlane(plane, SET_UP_FRAME);
  const least = leastAcrossPx(scene, plane, artSide);
  if (!painted || !least) return [];
  const across = isAcross(artSide);
  const longer = OVERLAP_PX / least;
  const length = across ? painted.x1 - painted.x0 : painted.y1 - painted.y0;
  const ratio = (length + longer) / length;
  // The opposite side stays: it is what the size is taken about.
  const next = across ? { scaleX: t.scaleX * ratio } : { scaleY: t.scaleY * ratio };
  const sized = setPlaneTransform(scene, planeId, next, SET_UP_FRAME);
  const fixed = { left: painted.x1, right: painted.x0, top: painted.y1, bottom: painted.y0 }[artSide];
  return [
    { kind: 'overlap', px: OVERLAP_PX, onId: besideId, scene: heldAt(scene, sized, planeId, across, fixed) },
  ];
}

/** The fewest output px that a px of art is wide across a side, over the shot. */
function leastAcrossPx(scene: Scene, plane: Plane, side: Side): number | null {
  let least = Number.POSITIVE_INFINITY;
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const one = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id);
    if (one?.state === 'drawn') least = Math.min(least, acrossPx(one.artToFrame, side));
  }
  return Number.isFinite(least) && least > 0 ? least : null;
}

/** Slides a plane so that a line of its art (at `fixed` along one axis) is again where it was. */
function heldAt(before: Scene, after: Scene, id: PlaneId, across: boolean, fixed: number): Scene {
  const at = (scene: Scene) => {
    const one = framePlan(scene, SET_UP_FRAME).planes.find(({ planeId }) => planeId === id);
    if (one?.state !== 'drawn') return null;
    return applyAffine(one.artToFrame, across ? { x: fixed, y: 0 } : { x: 0, y: fixed });
  };
  const [was, is] = [at(before), at(after)];
  if (!was || !is) return after;
  return movePlanesOnFrame(after, new Set([id]), { x: was.x - is.x, y: was.y - is.y }, SET_UP_FRAME);
}

/** As far towards the side as it stands in the frame. */
function slid(scene: Scene, planeId: PlaneId, { side, worstPx, worstFrame }: EdgeGap): Cure {
  const px = worstPx * SPARE;
  const by = {
    left: { x: -px, y: 0 },
    right: { x: px, y: 0 },
    top: { x: 0, y: -px },
    bottom: { x: 0, y: px },
  }[side];
  return {
    kind: 'slide',
    px,
    towards: side,
    scene: movePlanesOnFrame(scene, new Set([planeId]), by, worstFrame),
  };
}

/** The nearest depth at which the side stays out of frame, the picture at set-up held. */
function deeper(scene: Scene, { planeId }: FindingOf<'edge'>, works: (next: Scene) => boolean): Cure | null {
  const plane = planeOf(scene, planeId)!;
  const home = scene.homeDistanceSpx;
  const { depthSpx, root } = standingAt(scene, plane, SET_UP_FRAME);
  if (root !== 'stage' || plane.mount.on !== 'stage') return null;
  const least = nearLimitSpx(stageFrameOf(scene)) * 2;
  const at = (ratio: number) => {
    const distance = Math.max(least, (home + depthSpx) * ratio);
    const settings = { depthSpx: distance - home, atFrame: SET_UP_FRAME, holdPicture: true };
    return { scene: setPlaneDepth(scene, planeId, settings), bySpx: distance - home - depthSpx };
  };
  for (const most of [DEPTH.most, 1 / DEPTH.most]) {
    if (!works(at(most).scene)) continue;
    let [fails, holds] = [1, most];
    for (let i = 0; i < DEPTH.halvings; i++) {
      const middle = Math.sqrt(fails * holds);
      if (works(at(middle).scene)) holds = middle;
      else fails = middle;
    }
    return { kind: 'depth', ...at(holds) };
  }
  return null;
}

/** Both at one depth, the picture at set-up held. */
function together(scene: Scene, planeId: PlaneId, withId: PlaneId): Cure[] {
  const [plane, other] = [planeOf(scene, planeId), planeOf(scene, withId)];
  if (!plane || !other || plane.locked || plane.mount.on !== 'stage') return [];
  const [own, goal] = [plane, other].map((one) => standingAt(scene, one, SET_UP_FRAME).depthSpx) as [
    number,
    number,
  ];
  if (Math.abs(own - goal) < 1e-6) return [];
  const settings = { depthSpx: goal, atFrame: SET_UP_FRAME, holdPicture: true };
  return [{ kind: 'together', withId, bySpx: goal - own, scene: setPlaneDepth(scene, planeId, settings) }];
}

function mounted(scene: Scene, planeId: PlaneId, onId: PlaneId): Cure[] {
  // What rides at another depth than its carrier slides on it all the same.
  const [level] = together(scene, planeId, onId);
  const from = level?.scene ?? scene;
  const next = setPlaneMount(from, planeId, { on: 'plane', plane: onId }, SET_UP_FRAME);
  const plane = planeOf(scene, planeId);
  return next.ok && !plane?.locked ? [{ kind: 'mount', onId, scene: next.value }] : [];
}
