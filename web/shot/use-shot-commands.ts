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
import { shotWords as say } from '../words/shot.ts';
import { STEPS } from './steps.ts';

const SHOT = say.everywhereInAShot;
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
      words: say.playAndStopSpaceHeld,
      group: TIME,
      keys: ['Space'],
      run: () => session.setPlaying(!session.state.playing),
    },
    { ...small, id: 'time.back', words: say.oneFrameBack, keys: ['ArrowLeft'], run: step(-1) },
    { ...small, id: 'time.on', words: say.oneFrameOn, keys: ['ArrowRight'], run: step(1) },
    { ...small, id: 'time.back-ten', words: say.tenFramesBack, keys: ['Shift+ArrowLeft'], run: step(-10) },
    { ...small, id: 'time.on-ten', words: say.tenFramesOn, keys: ['Shift+ArrowRight'], run: step(10) },
    { id: 'time.first', words: say.firstFrame, group: TIME, keys: ['Home'], run: () => session.goTo(1) },
    {
      id: 'time.last',
      words: say.lastFrame,
      group: TIME,
      keys: ['End'],
      run: () => session.goTo(session.state.scene.lengthFrames),
    },
    {
      id: 'time.key-before',
      words: say.keyOrMarkerBefore,
      group: TIME,
      keys: [','],
      repeats: true,
      run: jump(-1),
    },
    {
      id: 'time.key-after',
      words: say.keyOrMarkerAfter,
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
      words: say.undo,
      group: SHOT,
      keys: ['Ctrl+Z'],
      repeats: true,
      run: () => undoOnce(session),
    },
    {
      id: 'shot.redo',
      words: say.redo,
      group: SHOT,
      keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
      repeats: true,
      run: () => redoOnce(session),
    },
    {
      id: 'shot.choose-none',
      words: say.chooseNothing,
      group: SHOT,
      keys: ['Escape'],
      run: () => {
        if (session.state.measuring) session.setMeasuring(null);
        else if (session.state.pinning) session.setPinning(false);
        else {
          session.select([]);
          session.selectKeys([]);
        }
      },
    },
    {
      id: 'shot.keying',
      words: say.keyingOnOrOff,
      group: SHOT,
      run: () => setPreferences({ keying: !usePreferences.getState().keying }),
    },
  ];
}

const MOST_FOUND = 500;

function shotFinds(session: Session): readonly Finds[] {
  return [
    {
      heading: say.frames,
      find: (text) => {
        const frame = /^\d+$/.test(text.trim()) ? Number(text) : 0;
        if (frame < 1 || frame > session.state.scene.lengthFrames) return [];
        return [{ id: `frame ${frame}`, words: say.goToFrameFrame(frame), run: () => session.goTo(frame) }];
      },
    },
    {
      heading: say.planes,
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
            words: say.goToWord(word),
            group: SHOT,
            run: () => void navigate(`/shots/${id}/${path}`),
          }),
        ),
        {
          id: 'help.read',
          words: say.readTheHelp,
          group: HELP_GROUP,
          run: () => void navigate('/help'),
        },
        {
          id: 'help.tour',
          words: say.takeTheTour,
          group: HELP_GROUP,
          run: () => {
            startTour();
            void navigate(`/shots/${id}/stage`);
          },
        },
        { id: 'go.wall', words: say.goToTheWall, group: SHOT, run: () => void navigate('/') },
      ],
      [session, navigate, id],
    ),
  );
  useFinds(useMemo(() => shotFinds(session), [session]));
}
