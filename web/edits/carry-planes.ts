import type { ShelfPiece } from '@keen-ridge/core/contract';
import { drawingsAsPlanes, type NoDrawings, planesAsDrawings } from '@keen-ridge/core/edits/art';
import { addPlanes, freeName, pastePlanes, planesToCarry } from '@keen-ridge/core/edits/planes';
import type { Plane, PlaneId } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { newPlane } from '@keen-ridge/core/staging/content';
import { toast } from 'sonner';
import { readCopiedPlanes, storeCopiedPlanes } from '../session/choices/copied-planes.ts';
import type { Session } from '../session/session.ts';
import { counted } from '../ui/format.ts';
import { editsWords as say } from '../words/edits.ts';
import { newPlaneId } from './art-edits.ts';
import { subjectOf } from './depth-edits.ts';
import { sayDone } from './undo.ts';

export function copyPlanes(session: Session, ids: readonly PlaneId[]): void {
  const { scene, frame } = session.state;
  const carried = planesToCarry(scene, new Set(ids), frame);
  if (storeCopiedPlanes(carried)) toast(say.copiedSubject(subjectOf(scene, ids)), { duration: 1500 });
  else toast.error(say.theBrowsersStorageIsFull);
}

/** Pastes in front of the chosen plane, or in front of all; into any shot, with depth, size, keys and look. */
export function pasteCopiedPlanes(session: Session): void {
  const carried = readCopiedPlanes();
  if (!carried) {
    toast(say.noPlanesWereCopiedYet);
    return;
  }
  addCarried(session, carried);
}

/** Planes from elsewhere, as they were staged there, in front of the chosen plane or of all. */
export function addCarried(session: Session, carried: readonly Plane[]): void {
  const { scene, selection } = session.state;
  const pasted = pastePlanes(scene, carried, newPlaneId, selection[0] ?? null);
  const edit = session.commit('add-planes', counted(pasted.ids.length, 'plane'), pasted.scene);
  if (edit) session.select(pasted.ids);
}

const WHY_NOT: Readonly<Record<NoDrawings, string>> = {
  'fewer-than-two': say.chooseTwoPlanesAtLeast,
  'not-still': say.onlyASinglePicture,
  'sizes-differ': say.drawingsAreOfOneSize,
};

export function joinAsDrawings(session: Session, ids: readonly PlaneId[]): void {
  const { scene } = session.state;
  const joined = planesAsDrawings(scene, new Set(ids));
  if (typeof joined === 'string') {
    toast(WHY_NOT[joined]);
    return;
  }
  const edit = session.commit('set-content', subjectOf(scene, ids), joined);
  sayDone(session, say.countedOfOneMovingPlane(counted(ids.length, 'drawing')), edit);
}

export function takeDrawingsApart(session: Session, ids: readonly PlaneId[]): void {
  const { scene } = session.state;
  const apart = ids.reduce((next, id) => {
    const moving = planeOf(next, id)?.content.kind === 'moving';
    return (moving && drawingsAsPlanes(next, id, newPlaneId)) || next;
  }, scene);
  const edit = session.commit('set-content', subjectOf(scene, ids), apart);
  sayDone(session, say.eachDrawingIsAPlane, edit);
}

/** A piece of the art shelf as a new plane on the datum, in the middle of the frame; a set as it was staged. */
export function takeFromShelf(session: Session, { name, content }: ShelfPiece): void {
  if (content.kind === 'set') {
    addCarried(session, content.planes);
    return;
  }
  const { scene } = session.state;
  const id = newPlaneId();
  const free = freeName(scene, name);
  const plane = newPlane(id, free, content);
  session.commit('add-planes', free, addPlanes(scene, [plane]));
  session.select([id]);
}
