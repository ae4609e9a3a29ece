import { planesOf } from '@keen-ridge/core/scene/records';
import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { HELP_GROUP } from '../commands/app-commands.tsx';
import type { Command } from '../commands/command.ts';
import { type Finds, useCommands, useFinds } from '../commands/registry.ts';
import { redoOnce, undoOnce } from '../edits/undo.ts';
import { nextKeyFrame } from '../session/choices/key-selection.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { startTour } from '../tour/tour.ts';
import { STEPS } from './steps.ts';

const SHOT = 'Everywhere in a shot';
const TIME = 'Time';

function timeCommands(session: Session): readonly Command[] {
  const step = (by: number) => () => {
    session.setPlaying(false);
    session.goTo(session.state.frame + by);
  };
  const jump = (direction: 1 | -1) => () => {
    const frame = nextKeyFrame(session.state.scene, session.state.frame, direction);
    if (frame !== null) session.goTo(frame);
  };
  const small = { group: TIME, keysOnly: true, repeats: true } as const;
  return [
    {
      id: 'time.play',
      words: 'Play and stop; Space held, a drag pans the view',
      group: TIME,
      keys: ['Space'],
      run: () => session.setPlaying(!session.state.playing),
    },
    { ...small, id: 'time.back', words: 'One frame back', keys: ['ArrowLeft'], run: step(-1) },
    { ...small, id: 'time.on', words: 'One frame on', keys: ['ArrowRight'], run: step(1) },
    { ...small, id: 'time.back-ten', words: 'Ten frames back', keys: ['Shift+ArrowLeft'], run: step(-10) },
    { ...small, id: 'time.on-ten', words: 'Ten frames on', keys: ['Shift+ArrowRight'], run: step(10) },
    { id: 'time.first', words: 'First frame', group: TIME, keys: ['Home'], run: () => session.goTo(1) },
    {
      id: 'time.last',
      words: 'Last frame',
      group: TIME,
      keys: ['End'],
      run: () => session.goTo(session.state.scene.lengthFrames),
    },
    {
      id: 'time.key-before',
      words: 'Key or marker before',
      group: TIME,
      keys: [','],
      repeats: true,
      run: jump(-1),
    },
    {
      id: 'time.key-after',
      words: 'Key or marker after',
      group: TIME,
      keys: ['.'],
      repeats: true,
      run: jump(1),
    },
  ];
}

function shotCommands(session: Session): readonly Command[] {
  return [
    {
      id: 'shot.undo',
      words: 'Undo',
      group: SHOT,
      keys: ['Ctrl+Z'],
      repeats: true,
      run: () => undoOnce(session),
    },
    {
      id: 'shot.redo',
      words: 'Redo',
      group: SHOT,
      keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
      repeats: true,
      run: () => redoOnce(session),
    },
    {
      id: 'shot.choose-none',
      words: 'Choose nothing',
      group: SHOT,
      keys: ['Escape'],
      run: () => {
        if (session.state.measuring) session.setMeasuring(null);
        else {
          session.select([]);
          session.selectKeys([]);
        }
      },
    },
    {
      id: 'shot.keying',
      words: 'Keying on or off',
      group: SHOT,
      run: () => setPreferences({ keying: !usePreferences.getState().keying }),
    },
  ];
}

const MOST_FOUND = 500;

function shotFinds(session: Session): readonly Finds[] {
  return [
    {
      heading: 'Frames',
      find: (text) => {
        const frame = /^\d+$/.test(text.trim()) ? Number(text) : 0;
        if (frame < 1 || frame > session.state.scene.lengthFrames) return [];
        return [{ id: `frame ${frame}`, words: `Go to frame ${frame}`, run: () => session.goTo(frame) }];
      },
    },
    {
      heading: 'Planes',
      find: () =>
        planesOf(session.state.scene)
          .slice(0, MOST_FOUND)
          .map(({ id, name }) => ({ id, words: name, run: () => session.select([id]) })),
    },
  ];
}

/** What can be done on every step of an open shot. */
export function useShotCommands(): void {
  const session = useSession();
  const navigate = useNavigate();
  const { id } = session.shot;
  useCommands(
    'shot',
    useMemo(
      () => [
        ...timeCommands(session),
        ...shotCommands(session),
        ...STEPS.map(
          ([path, word]): Command => ({
            id: `go.${path}`,
            words: `Go to ${word}`,
            group: SHOT,
            run: () => void navigate(`/shots/${id}/${path}`),
          }),
        ),
        {
          id: 'help.read',
          words: 'Read the help',
          group: HELP_GROUP,
          run: () => void navigate('/help'),
        },
        {
          id: 'help.tour',
          words: 'Take the tour',
          group: HELP_GROUP,
          run: () => {
            startTour();
            void navigate(`/shots/${id}/stage`);
          },
        },
        { id: 'go.wall', words: 'Go to the wall', group: SHOT, run: () => void navigate('/') },
      ],
      [session, navigate, id],
    ),
  );
  useFinds(useMemo(() => shotFinds(session), [session]));
}
