import { movePlanesOnFrame } from '@keen-ridge/core/edits/planes';
import { useHotkeys } from 'react-hotkeys-hook';
import { subjectOf } from '../edits/depth-edits.ts';
import { useSession } from '../session/use-session.ts';

const STEP_PX = { plain: 1, far: 10 } as const;

/** Alt and an arrow move the chosen planes by a px of the picture, with Shift by ten; on the other steps they mean other things. */
export function useStageKeys(): void {
  const session = useSession();
  const nudge = (event: KeyboardEvent, x: number, y: number) => {
    const { scene, selection, frame } = session.state;
    if (selection.length === 0) return;
    const step = event.shiftKey ? STEP_PX.far : STEP_PX.plain;
    const moved = movePlanesOnFrame(scene, new Set(selection), { x: x * step, y: y * step }, frame);
    session.commit('place-plane', subjectOf(scene, selection), moved);
  };
  const options = { preventDefault: true };
  useHotkeys('alt+left, alt+shift+left', (event) => nudge(event, -1, 0), options);
  useHotkeys('alt+right, alt+shift+right', (event) => nudge(event, 1, 0), options);
  useHotkeys('alt+up, alt+shift+up', (event) => nudge(event, 0, -1), options);
  useHotkeys('alt+down, alt+shift+down', (event) => nudge(event, 0, 1), options);
}
