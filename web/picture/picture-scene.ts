import {
  exposureIndexAt,
  type Plane,
  type PlaneId,
  planeIdSchema,
  type Scene,
  setPlanesHidden,
} from '@keen-ridge/core/document';
import type { StandInFigure } from '../state/session.ts';
import { type FigureSize, figurePlane } from './figure-plane.ts';

const GHOST_OPACITY = 0.3;

/** What the picture shows beside the scene itself, or leaves out of it. */
export interface PictureExtras {
  readonly solo: readonly PlaneId[];
  readonly onion: PlaneId | null;
  readonly figure: StandInFigure | null;
  readonly figureSize: FigureSize;
}

/**
 * The scene as the picture shows it: only the soloed planes where there are any, and the neighbouring exposures of the
 * onioned plane laid over it, and the stand-in figure. Nothing of this is kept or handed off.
 */
export function pictureScene(
  scene: Scene,
  frame: number,
  { solo, onion, figure, figureSize }: PictureExtras,
): Scene {
  const staged = figure ? withFigure(scene, figure, figureSize, frame) : scene;
  return withGhosts(alone(staged, solo), frame, onion);
}

function alone(scene: Scene, solo: readonly PlaneId[]): Scene {
  if (solo.length === 0) return scene;
  const others = scene.planes.filter((plane) => !solo.includes(plane.id)).map((plane) => plane.id);
  return setPlanesHidden(scene, new Set(others), true);
}

function withFigure(scene: Scene, figure: StandInFigure, size: FigureSize, frame: number): Scene {
  const plane = figurePlane(scene, figure, size, frame);
  const at = scene.planes.findIndex(({ id }) => id === figure.planeId);
  if (!plane) return scene;
  return { ...scene, planes: [...scene.planes.slice(0, at), plane, ...scene.planes.slice(at)] };
}

function withGhosts(scene: Scene, frame: number, onion: PlaneId | null): Scene {
  const moving = scene.planes.find((plane) => plane.id === onion && !plane.hidden);
  if (!moving) return scene;
  const at = scene.planes.indexOf(moving);
  return {
    ...scene,
    planes: [...scene.planes.slice(0, at), ...ghostsOf(moving, frame, scene.rate), ...scene.planes.slice(at)],
  };
}

/** The exposures before and after the one that shows, as faint planes in the same place. */
function ghostsOf(plane: Plane, frame: number, rate: Scene['rate']): Plane[] {
  const { content } = plane;
  if (content.kind !== 'moving') return [];
  const count = content.exposures.length;
  const now = exposureIndexAt(content, frame, rate);
  const around = new Set([(now + count - 1) % count, (now + 1) % count]);
  around.delete(now);
  return [...around].flatMap((index): Plane[] => {
    const art = content.exposures[index]?.art;
    if (!art) return [];
    return [
      {
        ...plane,
        id: planeIdSchema.parse(`${plane.id}-${index}`.slice(-64)),
        content: { kind: 'still', art, made: null },
        opacity: plane.opacity * GHOST_OPACITY,
      },
    ];
  });
}
