import { addCard } from '@keen-ridge/core/edits/art';
import {
  addPlanes,
  type CopyLook,
  copyOfPlane,
  deletePlanes,
  freeName,
  insertPlanes,
  setPlaneContent,
  setPlanesGroup,
  setPlanesHidden,
  setPlanesLocked,
  tidyName,
} from '@keen-ridge/core/edits/planes';
import type { Paint } from '@keen-ridge/core/paint';
import { type Content, type Plane, type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { newPlane } from '@keen-ridge/core/staging/content';
import { toast } from 'sonner';
import { sceneTrial } from '../session/scene-trial.ts';
import type { Session } from '../session/session.ts';
import { counted } from '../ui/format.ts';
import type { BeginTrial } from '../ui/trial.ts';
import { editsWords as say } from '../words/edits.ts';
import { subjectOf } from './depth-edits.ts';
import { sayDone } from './undo.ts';

export const newPlaneId = (): PlaneId => planeIdSchema.parse(crypto.randomUUID());

const FIRST_CARD: Paint = {
  kind: 'linear',
  angleDeg: 180,
  space: 'oklab',
  stops: [
    { at: 0, colour: '#2b3a5e', opacity: 1 },
    { at: 1, colour: '#d9a784', opacity: 1 },
  ],
};

/** A gradient card behind everything, large enough for the whole move. */
export function newCard(session: Session): void {
  const { scene } = session.state;
  const id = newPlaneId();
  const farthest = Math.max(0, ...planesOf(scene).map((plane) => plane.depthSpx));
  const name = freeName(scene, 'Card');
  session.commit(
    'add-planes',
    name,
    addCard(scene, { id, name, paint: FIRST_CARD, depthSpx: farthest, before: null }),
  );
  session.select([id]);
}

/** An empty plane for drawn shapes, twice the frame wide, in front of everything on the datum. Returns its id. */
export function newShapes(session: Session): PlaneId {
  const { scene } = session.state;
  const id = newPlaneId();
  const name = freeName(scene, 'Shapes');
  const [widthPx, heightPx] = [scene.frame.widthPx * 2, scene.frame.heightPx * 1.5];
  const plane = newPlane(id, name, { kind: 'shapes', widthPx, heightPx, shapes: [] });
  session.commit('add-planes', name, addPlanes(scene, [plane]));
  session.select([id]);
  return id;
}

/** Tries contents of a plane. */
export const contentTrial = (session: Session, id: PlaneId): BeginTrial<Content> =>
  sceneTrial(session, 'set-content', subjectOf(session.state.scene, [id]), (scene, content) =>
    setPlaneContent(scene, id, content),
  );

/** Puts a copy just in front of the plane that it is copied from. */
export function addCopy(session: Session, id: PlaneId, look: CopyLook, content?: Content): void {
  const { scene } = session.state;
  const copy = copyOfPlane(scene, id, newPlaneId(), look, content);
  if (!copy) return;
  session.commit('copy-plane', copy.name, insertPlanes(scene, [copy], id));
  session.select([copy.id]);
}

/** Deletes planes; those that are locked stay, and it is said. */
export function removePlanes(session: Session, ids: readonly PlaneId[]): void {
  const { scene } = session.state;
  const free = ids.filter((id) => planeOf(scene, id)?.locked === false);
  const stay = ids.length - free.length;
  if (stay > 0)
    toast(
      free.length === 0
        ? say.subjectLockedSoNotDeleted(subjectOf(scene, ids))
        : `${counted(stay, 'locked plane')} stayed.`,
    );
  if (free.length === 0) return;
  const subject = subjectOf(scene, free);
  const edit = session.commit('delete-planes', subject, deletePlanes(scene, new Set(free)));
  sayDone(session, say.deletedSubject(subject), edit);
}

export function toggleHidden(session: Session, planes: readonly Plane[]): void {
  const ids = planes.map((plane) => plane.id);
  const hide = planes.some((plane) => !plane.hidden);
  const { scene } = session.state;
  session.commit(
    hide ? 'hide-planes' : 'show-planes',
    subjectOf(scene, ids),
    setPlanesHidden(scene, new Set(ids), hide),
  );
}

export function toggleLocked(session: Session, planes: readonly Plane[]): void {
  const ids = planes.map((plane) => plane.id);
  const lock = planes.some((plane) => !plane.locked);
  const { scene } = session.state;
  session.commit(
    lock ? 'lock-planes' : 'unlock-planes',
    subjectOf(scene, ids),
    setPlanesLocked(scene, new Set(ids), lock),
  );
}

export function toggleSolo(session: Session, ids: readonly PlaneId[]): void {
  const { solo } = session.state;
  const all = ids.every((id) => solo.includes(id));
  session.setSolo(all ? solo.filter((id) => !ids.includes(id)) : [...new Set([...solo, ...ids])]);
}

/** A name for a group that no other group has. */
function freeGroupName(scene: Scene): string {
  const taken = new Set(planesOf(scene).map((plane) => plane.group));
  for (let number = 1; ; number++) if (!taken.has(`Group ${number}`)) return `Group ${number}`;
}

export function groupPlanes(session: Session, ids: readonly PlaneId[]): void {
  const { scene } = session.state;
  const name = freeGroupName(scene);
  session.commit('group-planes', name, setPlanesGroup(scene, new Set(ids), name));
}

export function ungroupPlanes(session: Session, ids: readonly PlaneId[]): void {
  const { scene } = session.state;
  session.commit('group-planes', subjectOf(scene, ids), setPlanesGroup(scene, new Set(ids), null));
}

/** Words that say nothing of what is painted, and letters alone. */
const EMPTY_WORDS =
  /^(layer|ebene|calque|untitled|unnamed|group|copy|new|final|image|img|picture|scan|[a-z]|\d+)$/i;

/** Names that several planes have, and names that say nothing. */
export function nameFaults(planes: readonly Plane[]): { twice: string[]; saysNothing: string[] } {
  const counts = new Map<string, number>();
  for (const { name } of planes) counts.set(name, (counts.get(name) ?? 0) + 1);
  return {
    twice: [...counts].filter(([, count]) => count > 1).map(([name]) => name),
    saysNothing: [...counts.keys()].filter((name) =>
      (tidyName(name).match(/\p{L}+|\d+/gu) ?? []).every((word) => EMPTY_WORDS.test(word)),
    ),
  };
}
