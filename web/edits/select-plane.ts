import type { PlaneId } from '@keen-ridge/core/scene';
import type { Session } from '../session/session.ts';

/** Chooses a plane that was pressed, or adds it to (takes it from) what was chosen; says what is chosen now. */
export function selectPlane(session: Session, id: PlaneId, add: boolean): readonly PlaneId[] {
  const there = session.state.selection;
  const next = !add
    ? there.includes(id)
      ? there
      : [id]
    : there.includes(id)
      ? there.filter((s) => s !== id)
      : [...there, id];
  session.select(next);
  return next;
}

/** A click on a plane: it alone, or with Shift or Ctrl as well (and no longer, where it was chosen). */
export function chooseClicked(session: Session, id: PlaneId, add: boolean): void {
  const { selection } = session.state;
  const others = selection.filter((one) => one !== id);
  session.select(!add ? [id] : others.length < selection.length ? others : [...others, id]);
}
