import { type Content, LIMITS, type Plane, type PlaneId, type Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withPlaneList, withPlanes } from '../../scene/records/index.ts';
import type { PlaneTransform } from '../../stage/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import { posedPlane, restOf } from '../../staging/index.ts';
import { cleanName } from '../../units/index.ts';
import { remountOrphans } from './mounts.ts';
import { withPinsMapped } from './pins.ts';
import { reorderPlanes } from './plane-list.ts';
import { withFreePlane, withFreePlanes, withPlane } from './with-planes.ts';

/** Deletes planes; what rode on them stays where it is, on what they rode on. */
export function deletePlanes(scene: Scene, ids: ReadonlySet<PlaneId>): Scene {
  const planes = planesOf(remountOrphans(scene, ids)).filter((plane) => !ids.has(plane.id));
  const { keepSize } = scene.move;
  const move = keepSize && ids.has(keepSize.plane) ? { ...scene.move, keepSize: null } : scene.move;
  return { ...withPlaneList(scene, planes), move };
}

/** Renames a plane; white space at the ends goes, and an empty name changes nothing. */
export function renamePlane(scene: Scene, id: PlaneId, name: string): Scene {
  const trimmed = name.trim();
  return trimmed === '' ? scene : withPlane(scene, id, (plane) => ({ ...plane, name: trimmed }));
}

export const setPlanesHidden = (scene: Scene, ids: ReadonlySet<PlaneId>, hidden: boolean): Scene =>
  withPlanes(scene, ids, (plane) => ({ ...plane, hidden }));

/** `opacity` in [0, 1]. */
export const setPlanesOpacity = (scene: Scene, ids: ReadonlySet<PlaneId>, opacity: number): Scene =>
  withPlanes(scene, ids, (plane) => ({ ...plane, opacity: Math.min(1, Math.max(0, opacity)) }));

/** Of a plane that moves, the place that it takes at `atFrame`; the rest of its move shifts alike. */
export const setPlaneTransform = (
  scene: Scene,
  id: PlaneId,
  part: Partial<PlaneTransform>,
  atFrame = 1,
): Scene =>
  withFreePlane(scene, id, (plane) => {
    const posed = posedPlane(plane, atFrame);
    return restOf({ ...posed, transform: { ...posed.transform, ...part } }, atFrame);
  });

export const setPlanesLocked = (scene: Scene, ids: ReadonlySet<PlaneId>, locked: boolean): Scene =>
  withPlanes(scene, ids, (plane) => ({ ...plane, locked }));

/** Puts planes into the group of that name, next to its first plane; null takes them out of theirs. */
export function setPlanesGroup(scene: Scene, ids: ReadonlySet<PlaneId>, name: string | null): Scene {
  const group = name === null ? null : cleanName(name, LIMITS.nameLength.max) || null;
  const grouped = withPlanes(scene, ids, (plane) => ({ ...plane, group }));
  if (group === null) return grouped;
  const members = new Set(
    planesOf(grouped)
      .filter((plane) => plane.group === group)
      .map((plane) => plane.id),
  );
  const first = planesOf(grouped).findIndex((plane) => members.has(plane.id));
  const after = planesOf(grouped)
    .slice(first)
    .find((plane) => !members.has(plane.id));
  return reorderPlanes(grouped, members, after?.id ?? null);
}

/** Gives a group another name; one that exists already takes its planes in. */
export const renameGroup = (scene: Scene, from: string, to: string): Scene =>
  setPlanesGroup(
    scene,
    new Set(
      planesOf(scene)
        .filter((plane) => plane.group === from)
        .map((plane) => plane.id),
    ),
    to.trim() === '' ? from : to,
  );

/** Another content on the same plane. The anchor stays in the middle where the size changes. */
export const setPlaneContent = (scene: Scene, id: PlaneId, content: Content): Scene =>
  withPlane(scene, id, (plane) => {
    const [before, after] = [factsOf(plane.content), factsOf(content)];
    const { transform } = plane;
    if (before.widthPx === after.widthPx && before.heightPx === after.heightPx) return { ...plane, content };
    const dxPx = (after.widthPx - before.widthPx) / 2;
    const dyPx = (after.heightPx - before.heightPx) / 2;
    return {
      ...withPinsMapped(plane, { scale: 1, dxPx, dyPx }),
      content,
      transform: {
        ...transform,
        anchorXArtPx: transform.anchorXArtPx + dxPx,
        anchorYArtPx: transform.anchorYArtPx + dyPx,
      },
    };
  });

/** Slides planes along themselves, stage px. */
export const nudgePlanes = (scene: Scene, ids: ReadonlySet<PlaneId>, dxSpx: number, dySpx: number): Scene =>
  withFreePlanes(scene, ids, (plane) => ({
    ...plane,
    transform: {
      ...plane.transform,
      xSpx: plane.transform.xSpx + dxSpx,
      ySpx: plane.transform.ySpx + dySpx,
    },
  }));

/** How a copy is to look: turned over, turned, squashed, and shifted so that it does not hide the first. */
export interface CopyLook {
  readonly flipX: boolean;
  readonly flipY: boolean;
  readonly turnDeg: number;
  readonly squashX: number;
  readonly squashY: number;
  readonly shiftXSpx: number;
}

/** A copy of a plane in front of it, named after it. Null when the scene has no such plane. */
export function copyOfPlane(
  scene: Scene,
  id: PlaneId,
  newId: PlaneId,
  look: CopyLook,
  content?: Content,
): Plane | null {
  const plane = planeOf(scene, id);
  if (!plane) return null;
  const { transform } = plane;
  return {
    ...plane,
    id: newId,
    name: freeName(scene, plane.name),
    content: content ?? plane.content,
    locked: false,
    transform: {
      ...transform,
      xSpx: transform.xSpx + look.shiftXSpx,
      scaleX: transform.scaleX * look.squashX * (look.flipX ? -1 : 1),
      scaleY: transform.scaleY * look.squashY * (look.flipY ? -1 : 1),
      rotationDeg: transform.rotationDeg + look.turnDeg,
    },
  };
}

/** `Rock` → `Rock 2`, or the next number that is free. */
export function freeName(scene: Scene, name: string): string {
  const taken = new Set(planesOf(scene).map((plane) => plane.name));
  if (!taken.has(name)) return name;
  const stem = name.replace(/ \d+$/, '').slice(0, 190);
  let number = 2;
  while (taken.has(`${stem} ${number}`)) number += 1;
  return `${stem} ${number}`;
}
