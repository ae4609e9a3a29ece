import { type ArtId, newScene, type Plane, type PlaneId, type Scene } from '../document/index.ts';

/** A made-up art id: 64 hex digits that end in `n`. */
export const testArtId = (n: number): ArtId => n.toString(16).padStart(64, '0') as ArtId;
export const testPlaneId = (text: string): PlaneId => text as PlaneId;

export function testPlane(part: Partial<Plane> & { id: PlaneId }, widthPx = 400, heightPx = 300): Plane {
  return {
    name: part.id,
    art: {
      id: testArtId(1),
      widthPx,
      heightPx,
      painted: { x0: 0, y0: 0, x1: widthPx, y1: heightPx },
      cutEdges: { left: true, right: true, top: true, bottom: true },
    },
    mount: 'stage',
    depthSpx: 0,
    transform: {
      xSpx: 0,
      ySpx: 0,
      scaleX: 1,
      scaleY: 1,
      rotationDeg: 0,
      anchorXArtPx: widthPx / 2,
      anchorYArtPx: heightPx / 2,
    },
    opacity: 1,
    hidden: false,
    ...part,
  };
}

export const testScene = (planes: readonly Plane[] = [], part: Partial<Scene> = {}): Scene => ({
  ...newScene({ widthPx: 1920, heightPx: 1080, rate: { num: 24, den: 1 }, lengthFrames: 120 }),
  planes: [...planes],
  ...part,
});
