import { fadeIn, fadeOut } from '@keen-ridge/core/edits/look';
import { planeOf } from '@keen-ridge/core/scene/records';
import { rationalToNumber } from '@keen-ridge/core/units';
import { useMemo } from 'react';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { lookWords as say } from '../words/look.ts';
import { makeSharp } from './use-look-clicks.ts';

const GROUP = 'Look';

/** A second of the shot, as long as a fade usually is. */
export const usualFade = (session: Session): number => Math.round(rationalToNumber(session.state.scene.rate));

function lookCommands(session: Session): readonly Command[] {
  const chosen = () => session.state.selection[0];
  const fade = (change: typeof fadeIn) => () => {
    const frames = usualFade(session);
    session.commit('fade', say.framesWord(frames), change(session.state.scene, frames));
  };
  return [
    {
      id: 'look.focus',
      words: say.makeChosenSharp,
      group: GROUP,
      keys: ['F'],
      on: 'plane',
      when: ({ subject }) => chosen() !== undefined || subject?.kind === 'plane',
      run: ({ subject }) => {
        const id = subject?.kind === 'plane' ? subject.id : chosen();
        makeSharp(session, planeOf(session.state.scene, id));
      },
    },
    {
      id: 'look.click',
      words: say.clickMakesSharpOrChooses,
      group: GROUP,
      keys: ['Shift+F'],
      run: () => {
        const { lookClick } = usePreferences.getState();
        setPreferences({ lookClick: lookClick === 'sharp' ? 'choose' : 'sharp' });
      },
    },
    { id: 'look.fade-in', words: say.fadeInCommand, group: GROUP, run: fade(fadeIn) },
    { id: 'look.fade-out', words: say.fadeOutCommand, group: GROUP, run: fade(fadeOut) },
  ];
}

/** The keyboard of the Look step, beside what can be done on every step. */
export function useLookCommands(): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo(() => lookCommands(session), [session]),
  );
}
