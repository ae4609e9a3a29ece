import type { Box } from '../../geometry/index.ts';
import type { Side } from '../../image/index.ts';
import type { Paint } from '../../paint/index.ts';
import type { ArtRef, Content, Exposure, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { outlinesBox, parsePath, pathData, rectangleOutline } from '../../shapes/index.ts';
import { memo } from '../../units/index.ts';

/** A filled outline, in art px. */
export interface PaintedPath {
  readonly path: string;
  readonly paint: Paint;
}

/** What a plane shows on one frame: an image, or paths that are drawn exactly at any size. */
export type Shown =
  | { readonly kind: 'image'; readonly art: ArtRef }
  | { readonly kind: 'paths'; readonly paths: readonly PaintedPath[]; readonly facts: ArtFacts };

/** Size of the art and where its paint ends; see `artRefSchema`. */
export interface ArtFacts {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly painted: Box | null;
  readonly cutEdges: Readonly<Record<Side, boolean>>;
}

const ALL_CUT = { left: true, right: true, top: true, bottom: true };
const NONE_CUT = { left: false, right: false, top: false, bottom: false };

const pathsOf = memo((content: Extract<Content, { kind: 'card' | 'shapes' }>): Shown => {
  const { widthPx, heightPx } = content;
  const whole = { x0: 0, y0: 0, x1: widthPx, y1: heightPx };
  if (content.kind === 'card') {
    const paths = [{ path: pathData([rectangleOutline(whole)]), paint: content.paint }];
    return { kind: 'paths', paths, facts: { widthPx, heightPx, painted: whole, cutEdges: ALL_CUT } };
  }
  const outlines = content.shapes.flatMap(({ path }) => {
    const read = parsePath(path);
    return read.ok ? read.value : [];
  });
  const facts = { widthPx, heightPx, painted: outlinesBox(outlines), cutEdges: NONE_CUT };
  return { kind: 'paths', paths: content.shapes, facts };
});

/** What `content` shows at `frame` (from 1; fractions show what the frame before them shows). */
export function shownAt(content: Content, frame: number, shotRate: Scene['rate']): Shown {
  switch (content.kind) {
    case 'still':
      return { kind: 'image', art: content.art };
    case 'moving':
      return { kind: 'image', art: exposureAt(content, frame, shotRate).art };
    case 'card':
    case 'shapes':
      return pathsOf(content);
  }
}

/** The facts of what is shown, painted or drawn. */
export const factsOfShown = (shown: Shown): ArtFacts => (shown.kind === 'image' ? shown.art : shown.facts);

/** The facts of what shows on a frame of the shot. */
export const factsAt = (content: Content, frame: number, shotRate: Scene['rate']): ArtFacts =>
  factsOfShown(shownAt(content, frame, shotRate));

/** The facts of what shows at rest: of a moving plane those of its first exposure. */
export const factsOf = (content: Content): ArtFacts =>
  factsAt(content, content.kind === 'moving' ? content.startFrame : 1, { num: 24, den: 1 });

type Moving = Extract<Content, { kind: 'moving' }>;

/** The exposure that shows on a frame of the shot. */
export const exposureAt = (content: Moving, frame: number, shotRate: Scene['rate']): Exposure =>
  content.exposures[exposureIndexAt(content, frame, shotRate)] as Exposure;

/**
 * Its index. Time counts from the start frame in frames of the plane's own rate; there-and-back shows the first and
 * the last exposure once each turn, so that no exposure is held twice as long at the ends.
 */
export function exposureIndexAt(content: Moving, frame: number, shotRate: Scene['rate']): number {
  const { exposures, cycle, startFrame, rate } = content;
  const own = rate ?? shotRate;
  // Whole numbers times a ratio: the half-frame guard keeps 3 · 24/24 from falling under 3.
  const tick = Math.floor(
    ((Math.floor(frame) - startFrame) * own.num * shotRate.den) / (own.den * shotRate.num) + 1e-9,
  );
  const order = turnOf(exposures.length, cycle);
  const length = turnTicks(content);
  let left = tick < 0 ? 0 : cycle === 'once' ? Math.min(tick, length - 1) : tick % length;
  for (const index of order) {
    left -= (exposures[index] as Exposure).hold;
    if (left < 0) return index;
  }
  return order.at(-1) ?? 0;
}

/** How long one turn of the exposures takes, in frames of the plane's own rate. */
export const turnTicks = ({ exposures, cycle }: Moving): number =>
  turnOf(exposures.length, cycle).reduce((sum, i) => sum + (exposures[i] as Exposure).hold, 0);

function turnOf(count: number, cycle: Moving['cycle']): number[] {
  const there = Array.from({ length: count }, (_, i) => i);
  return cycle === 'there-and-back' ? [...there, ...there.slice(1, -1).reverse()] : there;
}

/** Every image that the content shows. */
export const shownArts = (content: Content): readonly ArtRef[] => {
  if (content.kind === 'still') return [content.art];
  return content.kind === 'moving' ? content.exposures.map(({ art }) => art) : [];
};

/** Every image that the content needs, with those that it was made from. */
export function keptArts(content: Content): readonly ArtRef[] {
  if (content.kind !== 'still' || !content.made) return shownArts(content);
  const { made } = content;
  const before = made.kind === 'cut' ? (made.before ?? []).map(({ from }) => from) : [];
  return [content.art, made.from, ...before];
}

/** Every image that the scene names, once each. */
export const sceneArts = (scene: Pick<Scene, 'planes' | 'order'>): ArtRef[] => [
  ...new Map(
    planesOf(scene)
      .flatMap(({ content }) => keptArts(content))
      .map((art) => [art.id, art]),
  ).values(),
];
