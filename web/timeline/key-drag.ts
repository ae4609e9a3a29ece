import { moveSelected, rollSelected } from '@keen-ridge/core/edits/keys';
import { extentOf } from '@keen-ridge/core/units';
import type { KeyboardEvent, PointerEvent } from 'react';
import { keySelection } from '../session/choices/key-selection.ts';
import type { SelectedKey, Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { chooseAfter, keysWord, moveChosen, rollChosen } from './key-actions.ts';

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
  if (keys.length > 0) follow(session, down.clientX, down.altKey, keys, pxPerFrame);
}

/** Followed on the window, since the key itself is drawn anew wherever the drag takes it. */
function follow(
  session: Session,
  fromX: number,
  rolls: boolean,
  keys: readonly SelectedKey[],
  pxPerFrame: number,
): void {
  const { scene } = session.state;
  const selection = keySelection(keys);
  const frames = keys.map((key) => key.frame);
  const [first, last] = extentOf(frames);
  let by = 0;
  const onMove = (event: globalThis.PointerEvent) => {
    const wanted = Math.round((event.clientX - fromX) / pxPerFrame);
    const next = Math.max(1 - first, Math.min(Math.max(scene.lengthFrames, last) - last, wanted));
    if (next === by) return;
    by = next;
    session.show((rolls ? rollSelected : moveSelected)(scene, selection, by));
    if (!rolls) session.selectKeys(keys.map((key) => ({ ...key, frame: key.frame + by })));
  };
  const end = (keep: boolean) => {
    window.removeEventListener('pointermove', onMove);
    window.removeEventListener('pointerup', onUp);
    window.removeEventListener('pointercancel', onCancel);
    window.removeEventListener('keydown', onKey, true);
    if (keep && by !== 0)
      session.commit(rolls ? 'roll-keys' : 'move-keys', keysWord(scene, keys), session.shown);
    else {
      session.show(null);
      session.selectKeys(keys);
    }
    if (rolls) chooseAfter(session, keys, (frame) => frame + by);
  };
  const onUp = () => end(true);
  const onCancel = () => end(false);
  const onKey = (event: globalThis.KeyboardEvent) => {
    if (event.key !== 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    end(false);
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', onUp);
  window.addEventListener('pointercancel', onCancel);
  window.addEventListener('keydown', onKey, true);
}

/** Keys by keyboard: Enter chooses one and goes there, Shift adds it, Alt with the arrows moves all that are chosen, with Shift rolls. */
export function useKeyKeyboard(here: SelectedKey) {
  const session = useSession();
  return (event: KeyboardEvent<Element>) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      event.stopPropagation();
      const others = session.state.selectedKeys.filter((key) => !same(key, here));
      session.selectKeys(event.shiftKey ? [...others, here] : [here]);
      session.goTo(here.frame);
    }
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      event.preventDefault();
      event.stopPropagation();
      if (!session.state.selectedKeys.some((key) => same(key, here))) session.selectKeys([here]);
      const by = event.key === 'ArrowLeft' ? -1 : 1;
      if (event.shiftKey) rollChosen(session, by);
      else moveChosen(session, by);
    }
  };
}
