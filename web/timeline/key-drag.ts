import { moveSelected, rollSelected } from '@keen-ridge/core/edits/keys';
import { extentOf } from '@keen-ridge/core/units';
import type { KeyboardEvent, PointerEvent } from 'react';
import { keySelection } from '../session/choices/key-selection.ts';
import { sceneDrag } from '../session/scene-trial.ts';
import type { Session } from '../session/session.ts';
import type { SelectedKey } from '../session/state/choice.ts';
import { useSession } from '../session/use-session.ts';
import { type DragPoint, followDrag } from '../ui/pointer/drag.ts';
import { chooseAfter, keysWord } from './key-actions.ts';

const same = (p: SelectedKey, q: SelectedKey): boolean => p.channel === q.channel && p.frame === q.frame;

/**
 * A press on keys chooses them (Shift or Ctrl: as well), and a drag moves all that are chosen by whole frames; with Alt
 * it rolls them between their neighbours.
 */
export function grabKeys(
  session: Session,
  down: PointerEvent<Element>,
  here: readonly SelectedKey[],
  pxPerFrame: number,
): void {
  if (down.button !== 0) return;
  down.stopPropagation();
  const there = session.state.selectedKeys;
  const add = down.shiftKey || down.ctrlKey || down.metaKey;
  const isHere = (key: SelectedKey) => here.some((one) => same(one, key));
  const known = here.every((one) => there.some((key) => same(one, key)));
  const others = there.filter((key) => !isHere(key));
  const keys = known ? (add ? others : there) : add ? [...others, ...here] : here;
  session.selectKeys(keys);
  if (keys.length > 0) follow(session, down, keys, pxPerFrame);
}

/** The strip follows it, since the key itself is drawn anew wherever the drag takes it. */
function follow(
  session: Session,
  down: PointerEvent<Element>,
  keys: readonly SelectedKey[],
  pxPerFrame: number,
): void {
  const { scene } = session.state;
  const rolls = down.altKey;
  const selection = keySelection(keys);
  const [first, last] = extentOf(keys.map((key) => key.frame));
  const byOf = ({ dx }: DragPoint) =>
    Math.max(1 - first, Math.min(Math.max(scene.lengthFrames, last) - last, Math.round(dx / pxPerFrame)));
  const action = rolls ? 'roll-keys' : 'move-keys';
  let by = 0;
  const drag = sceneDrag(session, {
    action,
    subject: keysWord(scene, keys),
    change: (kept, to) => {
      by = byOf(to);
      return (rolls ? rollSelected : moveSelected)(kept, selection, by);
    },
    kept: () => {
      if (rolls) chooseAfter(session, keys, (frame) => frame + by);
    },
    drop: () => session.selectKeys(keys),
  });
  followDrag(
    down.nativeEvent,
    down.currentTarget,
    {
      ...drag,
      move: (to) => {
        drag.move?.(to);
        if (!rolls) session.selectKeys(keys.map((key) => ({ ...key, frame: key.frame + by })));
      },
    },
    { slackPx: 2, keepsFocus: true },
  );
}

/** Keys by keyboard: Enter chooses one and goes there, Shift adds it. */
export function useKeyKeyboard(here: SelectedKey) {
  const session = useSession();
  return (event: KeyboardEvent<Element>) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    const others = session.state.selectedKeys.filter((key) => !same(key, here));
    session.selectKeys(event.shiftKey ? [...others, here] : [here]);
    session.goTo(here.frame);
  };
}
