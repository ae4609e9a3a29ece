import {
  exposureIndexAt,
  type Plane,
  type PlaneId,
  planeIdSchema,
  type Scene,
  setPlanesHidden,
} from '@keen-ridge/core/document';

const GHOST_OPACITY = 0.3;

/**
 * The scene as the picture shows it: only the soloed planes where there are any, and the neighbouring exposures of the
 * onioned plane laid over it. Nothing of this is kept or handed off.
 */
export function pictureScene(
  scene: Scene,
  frame: number,
  { solo, onion }: { solo: readonly PlaneId[]; onion: PlaneId | null },
): Scene {
  const others = scene.planes.filter((plane) => !solo.includes(plane.id)).map((plane) => plane.id);
  const alone = solo.length === 0 ? scene : setPlanesHidden(scene, new Set(others), true);
  const moving = alone.planes.find((plane) => plane.id === onion && !plane.hidden);
  if (!moving) return alone;
  const at = alone.planes.indexOf(moving);
  return {
    ...alone,
    planes: [...alone.planes.slice(0, at), ...ghostsOf(moving, frame, scene.rate), ...alone.planes.slice(at)],
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
