import type { Content, Plane, PlaneId } from '../../scene/index.ts';
import { factsOf } from './shown.ts';

/** A plane on the datum with its middle on the axis of the home camera: one art px is one output px. */
export function newPlane(id: PlaneId, name: string, content: Content): Plane {
  const { widthPx, heightPx } = factsOf(content);
  return {
    id,
    name,
    group: null,
    content,
    origin: null,
    mount: { on: 'stage' },
    depthSpx: 0,
    transform: {
      xSpx: 0,
      ySpx: 0,
      scaleX: 1,
      scaleY: 1,
      rotationDeg: 0,
      skew: 0,
      anchorXArtPx: widthPx / 2,
      anchorYArtPx: heightPx / 2,
    },
    repeat: 'none',
    run: null,
    opacity: 1,
    grade: null,
    moves: {},
    track: null,
    passing: null,
    hidden: false,
    locked: false,
  };
}
