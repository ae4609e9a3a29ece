import { type Box, invertAffine, mapBox } from '../geometry/index.ts';
import { SIDES } from '../image/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { factsOfShown } from '../staging/content/index.ts';
import { type FramePlan, framePlan, type PlanePlan } from '../staging/frame/index.ts';
import { type AlphaMap, alphaMapOf } from './alpha/alpha-map.ts';
import { alphaOfPaths } from './alpha/path-alpha.ts';
import { softened } from './alpha/soft-alpha.ts';
import { endsAt, isCut } from './margins/edge-gaps.ts';
import { acrossPx, beyond, frameOnArt, sideSeen } from './margins/margins.ts';
import {
  type CoveringPlane,
  clearLight,
  copyOfLight,
  coverCells,
  type Light,
  NO_LIGHT,
  newLight,
  setLight,
} from './pass/cover.ts';
import { type FrameSign, FrameSigns, sameSign } from './pass/frame-sign.ts';
import { CELL_PX, type Grid, gridOf } from './pass/grid.ts';
import { missingBeyond } from './pass/missing.ts';
import { type BarePaint, barePaintOf, bareShowing, type Contact, contactsOf } from './pass/set-up.ts';
import { copyRows, emptyRows, type PlaneRows } from './rows.ts';
import { slideOf } from './slides.ts';

/** The frame at which the shot is set up: what shows openly there is meant. */
export const SET_UP_FRAME = 1;

/** What is kept of which bare cells showed when, at most; frames beyond it are looked at again after an edit. */
const MOST_KEPT_BYTES = 48 * 2 ** 20;

/** Looks up how much paint an art has; null where it is not known. */
export type AlphaSource = (artId: string) => AlphaMap | null;

/** What a bare spot of a plane has come to. */
export interface Reveal {
  readonly bare: BarePaint;
  firstFrame: number;
  lastFrame: number;
  /** Bare cells that showed at each frame, by index from 0. */
  readonly shown: Uint32Array;
  /** Which ones, a bit each; null where none did, undefined where that is not kept. */
  readonly showing: (Uint8Array | null | undefined)[];
}

/** Everything that was looked at, frame by frame: what the checks draw their findings from. */
export interface SurveyRows {
  readonly scene: Scene;
  readonly planes: ReadonlyMap<PlaneId, PlaneRows>;
  /** Output px² of nothing on each frame, and the box round it. */
  readonly holePx: Float32Array;
  readonly holeBoxes: readonly (Box | null)[];
  readonly reveals: ReadonlyMap<PlaneId, Reveal>;
  /** Planes as the set-up frame draws them, far to near: contacts and covers name them by index. */
  readonly setUpOrder: readonly PlaneId[];
  readonly contacts: readonly Contact[];
}

/** Art of which nothing is known counts as clear. */
const NO_PAINT = alphaMapOf(1, 1, { columns: 1, rows: 1, data: new Uint8Array(1) });

type Drawn = Extract<PlanePlan, { state: 'drawn' }>;

const isUnseenWhole = (plan: PlanePlan): plan is Drawn => plan.state === 'drawn';

/**
 * The survey of a shot, a frame a step, so that whoever runs it can yield in between. Rows are exact but for areas, which
 * are as fine as the cells of 4 output px that they are added up from.
 */
export class SurveyRun {
  readonly rows: SurveyRows;
  private readonly grid: Grid;
  private readonly light: Light;
  private readonly alphaOf: AlphaSource;
  private readonly planes = new Map<PlaneId, PlaneRows>();
  private readonly reveals = new Map<PlaneId, Reveal>();
  private readonly holeBoxes: (Box | null)[] = [];
  private setUpOrder: PlaneId[] = [];
  private contacts: Contact[] = [];
  private before: FramePlan | null = null;
  private readonly scene: Scene;
  private frame = 0;
  private readonly signs: FrameSigns;
  private readonly signOf: FrameSign[] = [];
  /** An ended survey of the shot as it was before: frames that are the same are taken over from it. */
  private older: SurveyRun | null;
  private olderServes = true;
  private lastTakenOver = false;
  private keptBytes = 0;
  /** How many frames were looked at, and not taken over. */
  looked = 0;

  constructor(scene: Scene, alphaOf: AlphaSource, older: SurveyRun | null = null) {
    this.scene = scene;
    this.older = older?.isDone ? older : null;
    this.signs = new FrameSigns(scene);
    this.alphaOf = alphaOf;
    this.grid = gridOf(scene.frame);
    this.light = newLight(this.grid);
    for (const plane of planesOf(scene))
      if (!plane.hidden) this.planes.set(plane.id, emptyRows(plane.id, scene.lengthFrames));
    const run = this;
    this.rows = {
      scene,
      planes: this.planes,
      holePx: new Float32Array(scene.lengthFrames),
      holeBoxes: this.holeBoxes,
      reveals: this.reveals,
      get setUpOrder() {
        return run.setUpOrder;
      },
      get contacts() {
        return run.contacts;
      },
    };
  }

  get done(): number {
    return this.frame;
  }

  get isDone(): boolean {
    return this.frame >= this.scene.lengthFrames;
  }

  /** Looks at the next frame; false once all have been. */
  step(): boolean {
    if (this.isDone) return false;
    this.frame += 1;
    const plan = framePlan(this.scene, this.frame);
    const sign = this.signs.of(plan);
    this.signOf.push(sign);
    const taken = this.olderServes && this.takeOver(plan, sign);
    if (!taken) {
      this.looked += 1;
      this.measure(plan);
      this.cover(plan);
    }
    if (
      plan.frame === SET_UP_FRAME &&
      !taken &&
      (this.reveals.size > 0 || (this.older?.reveals.size ?? 0) > 0)
    )
      // What is bare follows from the set-up frame, and what of it shows was counted on all the others.
      this.olderServes = false;
    this.lastTakenOver = taken;
    this.before = plan;
    // Nothing of it is needed any more, nor what it was made from.
    if (this.isDone) this.older = null;
    return !this.isDone;
  }

  /** Takes a frame over from the older survey where all that its rows follow from is the same. */
  private takeOver(plan: FramePlan, sign: FrameSign): boolean {
    const { older } = this;
    const i = plan.frame - 1;
    if (!older || !sameSign(older.signOf[i], sign)) return false;
    const reveals = [...older.reveals];
    if (reveals.some(([, { showing }]) => showing[i] === undefined)) return false;
    if (plan.frame === SET_UP_FRAME) {
      this.setUpOrder = older.setUpOrder;
      this.contacts = older.contacts;
      for (const [planeId, { bare }] of reveals) this.reveals.set(planeId, this.newReveal(bare));
    }
    const withSlide = this.lastTakenOver || plan.frame === 1;
    for (const [planeId, rows] of this.planes) {
      const from = older.planes.get(planeId);
      if (from) copyRows(from, rows, i, withSlide);
    }
    if (!withSlide) this.slides(plan);
    this.rows.holePx[i] = older.rows.holePx[i]!;
    this.holeBoxes[i] = older.holeBoxes[i] ?? null;
    for (const [planeId, { showing }] of reveals) this.show(planeId, showing[i] ?? null, plan.frame);
    return true;
  }

  private newReveal(bare: BarePaint): Reveal {
    const { lengthFrames } = this.scene;
    return {
      // What was seen of it is counted anew.
      bare: { ...bare, seen: new Uint8Array(bare.cells.length) },
      firstFrame: 0,
      lastFrame: 0,
      shown: new Uint32Array(lengthFrames),
      // None of it shows where the plane is not drawn, nor on the set-up frame, that hides all of it.
      showing: Array.from({ length: lengthFrames }, () => null),
    };
  }

  /** How far every plane has gone since the frame before. */
  private slides(plan: FramePlan): void {
    const last = new Map(this.before?.planes.map((one) => [one.planeId, one]));
    for (const one of plan.planes) {
      const rows = this.planes.get(one.planeId);
      if (rows && one.state === 'drawn')
        rows.slidePx[plan.frame - 1] = slideOf(last.get(one.planeId), one, this.scene.frame);
    }
  }

  /** The numbers that need no pixels. */
  private measure(plan: FramePlan): void {
    const i = plan.frame - 1;
    for (const one of plan.planes) {
      const rows = this.planes.get(one.planeId);
      if (!rows) continue;
      if (one.state === 'passed') rows.passed[i] = 1;
      if (one.state !== 'drawn') continue;
      const { artToFrame: m } = one;
      rows.ratio[i] = Math.max(Math.hypot(m.a, m.b), Math.hypot(m.c, m.d));
      rows.blurPx[i] = Math.max(one.blurPx, one.defocusPx);
      this.measureSides(one, rows, i);
    }
    this.slides(plan);
  }

  private measureSides(plan: Drawn, rows: PlaneRows, i: number): void {
    const facts = factsOfShown(plan.shown);
    const back = invertAffine(plan.artToFrame);
    if (!back || !facts.painted) return;
    const box = mapBox(plan.artToFrame, facts.painted);
    const { widthPx, heightPx } = this.scene.frame;
    const reaches = box.x1 > 0 && box.x0 < widthPx && box.y1 > 0 && box.y0 < heightPx;
    if (reaches || plan.repeat !== 'none') rows.inFrame[i] = 1;
    const seen = frameOnArt(back, this.scene.frame);
    for (const side of SIDES) {
      if (!endsAt(plan.repeat, side)) continue;
      const short = beyond(seen, facts.painted, side, plan.repeat);
      rows.shortArtPx[side][i] = short;
      if (!isCut(plan.repeat, side, facts)) continue;
      rows.inside[side][i] = short * acrossPx(plan.artToFrame, side);
      rows.looksTo[side][i] = SIDES.indexOf(sideSeen(plan.artToFrame, side));
    }
  }

  /** What shows of every plane, near to far, and what is missing. */
  private cover(plan: FramePlan): void {
    const { grid } = this;
    const isSetUp = plan.frame === SET_UP_FRAME;
    clearLight(grid, this.light);
    const light = this.light.cells;
    const drawn = plan.planes.filter(isUnseenWhole);
    const covering = drawn.map((one) => coveringOf(one, this.alphaOf));
    const coveredBy = isSetUp ? new Int16Array(light.length).fill(-1) : null;
    const front = isSetUp ? new Int16Array(light.length).fill(-1) : null;
    for (let index = drawn.length - 1; index >= 0; index--) {
      const [one, plane] = [drawn[index]!, covering[index]!];
      if (!plane) continue;
      const rows = this.planes.get(one.planeId);
      if (rows) this.missingOf(one, plane, rows, light, plan.frame - 1);
      if (coveredBy && plane.repeat === 'none') {
        const bare = barePaintOf(grid, light, coveredBy, plane);
        if (bare) this.reveals.set(one.planeId, this.newReveal(bare));
      } else this.reveal(one, light, plan.frame);
      const was = coveredBy && light.slice();
      // What is laid over by light hides nothing of what is behind it.
      const before = one.mode === 'paint' ? null : copyOfLight(this.light);
      const seen = coverCells(grid, this.light, plane);
      if (before) setLight(this.light, before);
      if (rows) rows.seenPx[plan.frame - 1] = seen;
      if (was && coveredBy && front)
        for (let k = 0; k < light.length; k++) {
          if (was[k]! >= 0.5 && light[k]! < 0.5) coveredBy[k] = index;
          if (was[k]! - light[k]! >= 0.5) front[k] = index;
        }
    }
    this.holes(light, plan.frame);
    if (front) {
      this.setUpOrder = drawn.map(({ planeId }) => planeId);
      this.contacts = contactsOf(
        grid,
        front,
        covering.map((plane, i) => plane ?? { ...drawn[i]!, map: NO_PAINT, opacity: 0 }),
      );
    }
  }

  private missingOf(
    plan: Drawn,
    plane: CoveringPlane,
    rows: PlaneRows,
    light: Float32Array,
    i: number,
  ): void {
    const { painted } = factsOfShown(plan.shown);
    if (!painted) return;
    for (const side of SIDES) {
      // Shapes that stand in for paint are not cut: what they will need is asked for all the same.
      const asked = Number.isNaN(rows.inside[side][i]!) && plan.shown.kind === 'paths';
      if (!(asked ? rows.shortArtPx[side][i]! > 0 : rows.inside[side][i]! > 0)) continue;
      rows.missing[side][i] = missingBeyond(this.grid, light, plane, { side, painted });
    }
  }

  private reveal(plan: Drawn, light: Float32Array, frame: number): void {
    const reveal = this.reveals.get(plan.planeId);
    if (!reveal) return;
    this.show(plan.planeId, bareShowing(this.grid, light, reveal.bare, plan.artToFrame), frame);
  }

  /** Counts the bare cells of a plane that show at a frame. */
  private show(planeId: PlaneId, bits: Uint8Array | null, frame: number): void {
    const reveal = this.reveals.get(planeId);
    if (!reveal || !bits) return;
    let count = 0;
    for (let i = 0; i < reveal.bare.cells.length; i++) {
      if ((bits[i >> 3]! & (1 << (i & 7))) === 0) continue;
      reveal.bare.seen[i] = 1;
      count += 1;
    }
    if (count === 0) return;
    if (reveal.firstFrame === 0) reveal.firstFrame = frame;
    reveal.lastFrame = frame;
    reveal.shown[frame - 1] = count;
    this.keptBytes += bits.length;
    reveal.showing[frame - 1] = this.keptBytes <= MOST_KEPT_BYTES ? bits : undefined;
  }

  private holes(light: Float32Array, frame: number): void {
    const { columns, rows, columnPx, rowPx } = this.grid;
    let area = 0;
    let [c0, r0, c1, r1] = [columns, rows, -1, -1];
    for (let r = 0; r < rows; r++) {
      if (this.light.open[r] === 0) continue;
      for (let c = 0; c < columns; c++) {
        const t = light[r * columns + c]!;
        if (t < NO_LIGHT) continue;
        area += t * columnPx[c]! * rowPx[r]!;
        if (c < c0) c0 = c;
        if (c > c1) c1 = c;
        if (r < r0) r0 = r;
        if (r > r1) r1 = r;
      }
    }
    this.rows.holePx[frame - 1] = area;
    this.holeBoxes[frame - 1] =
      c1 < 0
        ? null
        : {
            x0: c0 * CELL_PX,
            y0: r0 * CELL_PX,
            x1: Math.min(this.grid.widthPx, (c1 + 1) * CELL_PX),
            y1: Math.min(this.grid.heightPx, (r1 + 1) * CELL_PX),
          };
  }
}

/** A plane as the pass lays it over what is nearer; null where it is not known how much paint it has. */
export function coveringOf(
  { shown, artToFrame, opacity, repeat, softEdgePx }: Drawn,
  alphaOf: AlphaSource,
): CoveringPlane | null {
  const painted = shown.kind === 'image' ? alphaOf(shown.art.id) : alphaOfPaths(shown);
  const isSoft = painted && softEdgePx > 0 && shown.kind === 'image';
  const map = isSoft ? softened(painted, softEdgePx, repeat) : painted;
  return map && { map, artToFrame, opacity, repeat };
}

/** The whole survey at once, for whoever has nothing else to do. */
export function surveyRows(scene: Scene, alphaOf: AlphaSource): SurveyRows {
  const run = new SurveyRun(scene, alphaOf);
  while (run.step());
  return run.rows;
}
