import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { deleteSelected, redoOnce, undoOnce } from '../edits/undo.ts';
import { nextKeyFrame } from '../session/choices/key-selection.ts';
import { useSession } from '../session/use-session.ts';
import { pressSpace, releaseSpace } from '../ui/space-held.ts';

/** What the keyboard does everywhere in a shot; `?` lists them. */
export const SHOT_KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play and stop; held, a drag pans the view'],
  ['← →', 'One frame back or on; with Shift ten'],
  ['Home End', 'First or last frame'],
  [', .', 'Previous or next key'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z, Ctrl Y', 'Redo'],
  ['Delete', 'Delete the selected keys or planes'],
  ['Esc', 'Select nothing'],
  ['↑ ↓ on a plane', 'Nudge its depth; with Shift ten times as far'],
  ['F2 on a plane', 'Rename'],
  ['H on a plane', 'Hide or show'],
  ['Alt and arrows on Stage', 'Move the chosen planes by a px of the picture; with Shift ten'],
  ['Alt ← → on a key', 'Move the chosen keys by a frame'],
  ['K on Move', 'Key every keyed channel of the camera as it is now'],
  ['Ctrl C, Ctrl V, Ctrl D', 'Copy, paste at the playhead, duplicate the chosen keys'],
  ['Ctrl A on Move', 'Choose all keys'],
  ['I O', 'In and out: what plays; with Shift both go'],
  ['M', 'Marker at this frame'],
  ['Alt-drag a key, Alt Shift ← →', 'Roll it between its neighbours'],
  ['?', 'This list'],
];

export function useShotKeys(onHelp: () => void): void {
  const session = useSession();
  const step = (by: number) => {
    session.setPlaying(false);
    session.goTo(session.state.frame + by);
  };
  const jump = (direction: 1 | -1) => {
    const frame = nextKeyFrame(session.state.scene, session.state.frame, direction);
    if (frame !== null) session.goTo(frame);
  };
  const options = { preventDefault: true };
  // Space plays when it is let go, unless it was held to pan the view meanwhile.
  useHotkeys('space', pressSpace, { ...options, ignoreEventWhen: onControl });
  useHotkeys('space', () => releaseSpace() && session.setPlaying(!session.state.playing), {
    ...options,
    keydown: false,
    keyup: true,
    ignoreEventWhen: onControl,
  });
  useHotkeys('left', () => step(-1), options);
  useHotkeys('right', () => step(1), options);
  useHotkeys('shift+left', () => step(-10), options);
  useHotkeys('shift+right', () => step(10), options);
  useHotkeys('home', () => session.goTo(1), options);
  useHotkeys('end', () => session.goTo(session.state.scene.lengthFrames), options);
  useHotkeys('comma', () => jump(-1), options);
  useHotkeys('period', () => jump(1), options);
  useHotkeys('mod+z', () => undoOnce(session), options);
  useHotkeys('mod+shift+z, mod+y', () => redoOnce(session), options);
  useHotkeys('delete, backspace', () => deleteSelected(session), options);
  const giveUp = () => {
    if (session.state.measuring) {
      session.setMeasuring(null);
      return;
    }
    session.select([]);
    session.selectKeys([]);
  };
  // An Escape that closed a popover has done its work.
  useHotkeys('escape', giveUp, { ignoreEventWhen: (event) => event.defaultPrevented });
  useHotkeys('?', onHelp, { ...options, useKey: true });
  useEffect(dropFocusAfterMouse, []);
}

/** Space belongs to a control that was reached by keyboard. */
const onControl = (event: KeyboardEvent): boolean =>
  event.target instanceof Element &&
  event.target.closest('[data-row]') === null &&
  event.target.closest('button, a, select, [role=button], [role=radio]') !== null;

/** A button that was clicked gives its focus back (rows keep it, for they have keys of their own), so that Space plays and does not press it again. */
function dropFocusAfterMouse(): () => void {
  const onClick = (event: MouseEvent) => {
    const button = event.target instanceof Element ? event.target.closest('button') : null;
    if (
      event.detail > 0 &&
      button &&
      !button.hasAttribute('aria-haspopup') &&
      !button.hasAttribute('data-row')
    )
      button.blur();
  };
  window.addEventListener('click', onClick);
  return () => window.removeEventListener('click', onClick);
}
