import type { PaintedLayer } from '../edits/art/index.ts';
import { setPlaneMount } from '../edits/planes/index.ts';
import {
  type ArtId,
  type ArtRef,
  type Mount,
  newScene,
  type Plane,
  type PlaneId,
  type Scene,
} from '../scene/index.ts';
import { withPlaneList } from '../scene/records/index.ts';
import { newPlane } from '../staging/content/index.ts';

/** A made-up art id: 64 hex digits that end in `n`. */
export const testArtId = (n: number): ArtId => n.toString(16).padStart(64, '0') as ArtId;
export const testPlaneId = (text: string): PlaneId => text as PlaneId;

/** An image painted to its edges. */
export const testArt = (n: number, widthPx = 400, heightPx = 300): ArtRef => ({
  id: testArtId(n),
  widthPx,
  heightPx,
  painted: { x0: 0, y0: 0, x1: widthPx, y1: heightPx },
  cutEdges: { left: true, right: true, top: true, bottom: true },
});

export function testPlane(part: Partial<Plane> & { id: PlaneId }, widthPx = 400, heightPx = 300): Plane {
  const content = { kind: 'still', art: testArt(1, widthPx, heightPx), made: null } as const;
  return { ...newPlane(part.id, part.id, content), ...part };
}

/** A layer of a painting that it fills, with whatever else is said of it. */
export const paintedLayer = (part: Partial<PaintedLayer> & { art: ArtRef }): PaintedLayer => ({
  name: 'Layer',
  group: null,
  moving: null,
  xPx: 0,
  yPx: 0,
  opacity: 1,
  hidden: false,
  file: 'painting.ora',
  paintingWidthPx: part.art.widthPx,
  paintingHeightPx: part.art.heightPx,
  ...part,
});

/** The same plane with other sides of its art cut off. */
export function withCutEdges(plane: Plane, sides: Partial<ArtRef['cutEdges']>): Plane {
  if (plane.content.kind !== 'still') throw new Error('Only stills have cut edges of their own');
  const { art } = plane.content;
  return {
    ...plane,
    content: { ...plane.content, art: { ...art, cutEdges: { ...art.cutEdges, ...sides } } },
  };
}

export const testScene = (planes: readonly Plane[] = [], part: Partial<Scene> = {}): Scene => ({
  ...withPlaneList(
    newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 120 }),
    [...planes],
  ),
  ...part,
});

/** The scene with a plane remounted at frame 1; throws where that is refused. */
export function mountedOn(scene: Scene, id: PlaneId, mount: Mount): Scene {
  const mounted = setPlaneMount(scene, id, mount, 1);
  if (!mounted.ok) throw new Error(mounted.error);
  return mounted.value;
}
