import type { PlaneId } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { Session } from '../session.ts';

/** Keys that were held: with Ctrl one is added or taken from what is chosen, with Shift all from the last one on. */
export interface ClickKeys {
  readonly shift: boolean;
  readonly add: boolean;
}

export const clickKeys = (event: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>): ClickKeys => ({
  shift: event.shiftKey,
  add: event.ctrlKey || event.metaKey,
});

/** What a click selects: one, one more (Ctrl), or all from the last one on (Shift). */
export function selectionAfterClick<Id extends string>(
  order: readonly Id[],
  selection: readonly Id[],
  clicked: Id,
  { shift, add }: ClickKeys,
): Id[] {
  const last = selection.at(-1);
  if (shift && last && order.includes(last)) {
    const [p, q] = [order.indexOf(last), order.indexOf(clicked)];
    const between = order.slice(Math.min(p, q), Math.max(p, q) + 1).filter((id) => id !== last);
    return [
      ...new Set([...selection.filter((id) => !between.includes(id) && id !== last), ...between, last]),
    ];
  }
  if (!add) return [clicked];
  return selection.includes(clicked) ? selection.filter((id) => id !== clicked) : [...selection, clicked];
}

/**
 * Chooses a plane of a list that was pressed, and says what is chosen now. One that is chosen already stays so with
 * all others, since the press may begin a drag of them.
 */
export function selectPlane(
  session: Session,
  order: readonly PlaneId[],
  id: PlaneId,
  keys: ClickKeys,
): readonly PlaneId[] {
  const there = session.state.selection;
  if (!keys.shift && !keys.add && there.includes(id)) return there;
  const next = selectionAfterClick(order, there, id, keys);
  session.select(next);
  return next;
}

/** A click on a plane in a picture of the stage. All between two planes are those between them in the stack. */
export function chooseClicked(session: Session, id: PlaneId, keys: ClickKeys): void {
  const { selection, scene } = session.state;
  const order = planesOf(scene).map((plane) => plane.id);
  session.select(selectionAfterClick(order, selection, id, keys));
}
