import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { isMoving, type PathOwner } from '@keen-ridge/core/staging';
import { useMemo } from 'react';
import { useSessionState, useShownScene } from '../../session/use-session.ts';

/** Whose path is worked on: that of the plane that is chosen, if it moves; else the camera's. */
export function usePathOwner(): PathOwner {
  const scene = useShownScene();
  const selection = useSessionState((state) => state.selection);
  const [only] = selection;
  const plane = selection.length === 1 && only ? planeOf(scene, only) : undefined;
  const id = plane && isMoving(plane) ? plane.id : null;
  return useMemo(() => (id ? { on: 'plane', plane: id } : { on: 'camera' }), [id]);
}

export const ownerWord = (scene: Scene, owner: PathOwner): string =>
  owner.on === 'camera' ? 'the camera' : (planeOf(scene, owner.plane)?.name ?? 'the plane');
