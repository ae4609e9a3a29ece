import { applyAffine, invertAffine } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { planeOf, planesOf } from '../../scene/records/index.ts';
import { distanceSpx, focalPx, nearLimitSpx } from '../../stage/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import {
  type ChannelName,
  channelId,
  crossingPx,
  interpolationOf,
  keyedChannels,
  stageFrameOf,
  standingsAt,
  steadyPoseAt,
} from '../../staging/index.ts';
import { canClose, loopReport } from '../../staging/loop/index.ts';
import { pacedChannelAt } from '../../staging/sample/index.ts';
import { speedsAtKey } from '../../timing/index.ts';
import { rationalToNumber } from '../../units/index.ts';
import type { FindingOf, SurveyLimits } from '../finding.ts';
import type { PlaneRows } from '../rows.ts';
import { stepOnScreen } from '../slides.ts';
import { standsIn } from '../stands-in.ts';
import { SET_UP_FRAME, type SurveyRows } from '../survey-run.ts';
import { amissWhere } from './frames.ts';

/** Over the allowed softness by more than this it is wrong; up to there it is advice. */
const CLEARLY_SOFT = 1.25;
/** What rounding makes of a ratio of exactly 1. */
const ROUNDING = 1e-4;

/** Painted px that are shown larger than one output px while they are seen sharp. */
export function softFindings({ scene, planes }: SurveyRows, { softness }: SurveyLimits): FindingOf<'soft'>[] {
  return [...planes.values()].flatMap((rows): FindingOf<'soft'>[] => {
    const plane = planeOf(scene, rows.planeId);
    if (!plane || standsIn(plane.content)) return [];
    // Where it is blurred by more than that nobody sees it.
    const shown = rows.ratio.map((ratio, i) => (rows.seenPx[i]! >= 1 && rows.blurPx[i]! < ratio ? ratio : 0));
    const amiss = amissWhere(shown, softness + ROUNDING);
    if (!amiss) return [];
    const grade = amiss.measured > softness * CLEARLY_SOFT ? 'wrong' : 'advice';
    const paintPercent = Math.ceil((amiss.measured / softness) * 100 - ROUNDING);
    const { planeId } = rows;
    return [{ id: `soft ${planeId}`, code: 'soft', grade, planeId, ...amiss, limit: softness, paintPercent }];
  });
}

/** What crosses the frame so fast that it strobes, while it is seen. */
export function paceFindings(
  { scene, planes }: SurveyRows,
  { crossingSeconds }: SurveyLimits,
): FindingOf<'pace'>[] {
  const limit = crossingPx(scene, crossingSeconds);
  return [...planes.values()].flatMap((rows): FindingOf<'pace'>[] => {
    const seen = rows.slidePx.map((px, i) => (rows.seenPx[i]! >= 1 ? px : 0));
    const amiss = amissWhere(seen, limit + ROUNDING);
    if (!amiss) return [];
    const { planeId } = rows;
    const seconds = scene.frame.widthPx / (amiss.measured * rationalToNumber(scene.rate));
    return [
      {
        id: `pace ${planeId}`,
        code: 'pace',
        grade: 'wrong',
        planeId,
        ...amiss,
        limit,
        crossingSeconds: seconds,
      },
    ];
  });
}

/** What lies farther behind than this, as a ratio of distances, is behind a plane and not under its foot. */
const TOUCHING = 1.3;

/** Planes that touch where the shot is set up and slide apart. What runs is meant to go along under others. */
export function slipFindings(
  { scene, setUpOrder, contacts }: SurveyRows,
  { slipPx }: SurveyLimits,
): FindingOf<'slip'>[] {
  const setUp = new Map(framePlan(scene, SET_UP_FRAME).planes.map((plan) => [plan.planeId, plan]));
  const { widthPx, heightPx } = scene.frame;
  const spots = contacts.flatMap(({ plane, on, x, y }) => {
    const [planeId, onId] = [setUpOrder[plane]!, setUpOrder[on]!];
    const onArt = [planeId, onId].map((id) => {
      const plan = setUp.get(id);
      const back = plan?.state === 'drawn' ? invertAffine(plan.artToFrame) : null;
      return back && applyAffine(back, { x, y });
    });
    const [foot, ground] = onArt;
    const [own, under] = [setUp.get(planeId), setUp.get(onId)];
    const touch = own && under && under.distanceSpx <= TOUCHING * own.distanceSpx;
    const runs = planeOf(scene, planeId)?.run || planeOf(scene, onId)?.run;
    return foot && ground && touch && !runs
      ? [{ planeId, onId, foot, ground, apart: new Float32Array(scene.lengthFrames) }]
      : [];
  });
  if (spots.length === 0) return [];
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const plans = new Map(framePlan(scene, frame).planes.map((plan) => [plan.planeId, plan]));
    for (const spot of spots) {
      const [p, q] = [plans.get(spot.planeId), plans.get(spot.onId)];
      if (p?.state !== 'drawn' || q?.state !== 'drawn') continue;
      const at = applyAffine(p.artToFrame, spot.foot);
      if (at.x < 0 || at.x > widthPx || at.y < 0 || at.y > heightPx) continue;
      const apart = stepOnScreen(q, spot.ground, at);
      spot.apart[frame - 1] = Math.hypot(apart.x, apart.y);
    }
  }
  return spots.flatMap(({ planeId, onId, apart }): FindingOf<'slip'>[] => {
    const amiss = amissWhere(apart, slipPx);
    return amiss
      ? [
          {
            id: `slip ${planeId} ${onId}`,
            code: 'slip',
            grade: 'wrong',
            planeId,
            onId,
            ...amiss,
            limit: slipPx,
          },
        ]
      : [];
  });
}

/** Smaller jumps of speed are not seen, output px a frame². Common practice, no source. */
const LEAST_JUMP = 0.5;

/** A step along a track that is as good as its direction, frames. */
const JUST_BESIDE = 1e-3;

/**
 * How far the datum goes on screen for one unit of a camera channel at a frame, output px: on the axis, at the corner of
 * the frame for what grows outward. Null for channels that move nothing, and where the datum has been passed.
 */
function pxPerUnit(scene: Scene, name: ChannelName, frame: number): number | null {
  const stage = stageFrameOf(scene);
  const pose = steadyPoseAt(scene, frame);
  const distance = distanceSpx(pose, 0);
  if (distance <= nearLimitSpx(stage)) return null;
  const half = Math.hypot(stage.widthPx, stage.heightPx) / 2;
  const [perPan, perTruck] = [focalPx(stage, pose) / distance, half / distance];
  switch (name) {
    case 'panX':
    case 'panY':
      return perPan;
    case 'truck':
      return perTruck;
    case 'zoom':
      return half / pose.zoom;
    case 'roll':
      return (half * Math.PI) / 180;
    case 'track': {
      const [from, to] = [steadyPoseAt(scene, frame - JUST_BESIDE), steadyPoseAt(scene, frame + JUST_BESIDE)];
      const [x, y, z] = [to.xSpx - from.xSpx, to.ySpx - from.ySpx, to.zSpx - from.zSpx];
      const way = Math.hypot(x, y, z);
      return way > 0 ? Math.hypot(x * perPan, y * perPan, z * perTruck) / way : 0;
    }
    default:
      return null;
  }
}

/** Camera channels, and its track, whose speed jumps at a key within the shot. */
export function jumpFindings({ scene }: SurveyRows): FindingOf<'jump'>[] {
  return keyedChannels(scene).flatMap((ref): FindingOf<'jump'>[] => {
    const channel = pacedChannelAt(scene, ref);
    if (ref.on !== 'camera' || !channel || channel.muted) return [];
    const interpolation = ref.name === 'track' ? 'linear' : interpolationOf(scene, ref.name);
    let worst: { frame: number; jump: number } | null = null;
    channel.keys.forEach((key, index) => {
      if (key.frame <= 1 || key.frame >= scene.lengthFrames) return;
      const speeds = speedsAtKey(channel, index, interpolation);
      if (!speeds?.jumps) return;
      const jump = Math.abs(speeds.after - speeds.before) * (pxPerUnit(scene, ref.name, key.frame) ?? 0);
      if (jump > (worst?.jump ?? LEAST_JUMP)) worst = { frame: key.frame, jump };
    });
    if (!worst) return [];
    const { frame, jump } = worst as { frame: number; jump: number };
    const frames = { firstFrame: frame, worstFrame: frame, lastFrame: frame };
    const id = channelId(ref);
    return [
      {
        id: `jump ${id}`,
        code: 'jump',
        grade: 'wrong',
        channel: id,
        ...frames,
        measured: jump,
        limit: LEAST_JUMP,
      },
    ];
  });
}

/** Neighbours in depth that slide apart by less than this over a shot that moves look like one. */
const FLAT_PX = 1;
/** A camera that moves the datum by less does not show depth anyway, output px. */
const LEAST_MOVE_PX = 12;

/** Neighbours whose depth is not read. */
export function flatFindings({ scene, planes }: SurveyRows): FindingOf<'flat'>[] {
  const standings = standingsAt(scene, SET_UP_FRAME);
  const way = ({ slidePx }: PlaneRows) => slidePx.reduce((sum, px) => sum + px, 0);
  const stood = planesOf(scene)
    .flatMap((plane) => {
      const [rows, standing] = [planes.get(plane.id), standings.get(plane.id)];
      const counts = rows && standing?.root === 'stage' && factsOf(plane.content).painted && !plane.run;
      return counts && rows.seenPx.some((px) => px >= 1)
        ? [{ rows, depthSpx: standing.depthSpx, way: way(rows) }]
        : [];
    })
    .sort((p, q) => p.depthSpx - q.depthSpx);
  if (Math.max(0, ...stood.map((one) => one.way)) < LEAST_MOVE_PX) return [];
  return stood.slice(1).flatMap((far, i): FindingOf<'flat'>[] => {
    const near = stood[i]!;
    const apart = Math.abs(near.way - far.way);
    if (far.depthSpx - near.depthSpx < 1e-6 || apart >= FLAT_PX) return [];
    return [
      {
        id: `flat ${far.rows.planeId} ${near.rows.planeId}`,
        code: 'flat',
        grade: 'advice',
        planeId: far.rows.planeId,
        besideId: near.rows.planeId,
        firstFrame: 1,
        worstFrame: scene.lengthFrames,
        lastFrame: scene.lengthFrames,
        measured: apart,
        limit: FLAT_PX,
      },
    ];
  });
}

/** In a shot where something closes a loop, what does not. */
export function loopFindings({ scene }: SurveyRows): FindingOf<'loop'>[] {
  const items = loopReport(scene);
  const closing = items.filter(canClose);
  if (items.some(({ kind }) => kind === 'camera') || !closing.some(({ closed }) => closed)) return [];
  return closing
    .filter(({ closed }) => !closed)
    .map(
      (item): FindingOf<'loop'> => ({
        id: `loop ${item.planeId}`,
        code: 'loop',
        grade: 'wrong',
        planeId: item.planeId,
        firstFrame: 1,
        worstFrame: scene.lengthFrames,
        lastFrame: scene.lengthFrames,
        measured: Math.abs(item.turns - item.nearest),
        limit: 0,
      }),
    );
}
