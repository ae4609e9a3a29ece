import { channelAt, channelId, channelRef, keyedChannels } from '@keen-ridge/core/staging';
import { useMemo } from 'react';
import type { Command, CommandContext } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { lastCopied } from '../session/choices/copied-planes.ts';
import type { Session } from '../session/session.ts';
import type { SelectedKey } from '../session/state/choice.ts';
import { useSession } from '../session/use-session.ts';
import { timelineWords as say } from '../words/timeline.ts';
import {
  copyChosen,
  deleteChosen,
  duplicateChosen,
  moveChosen,
  pasteCopied,
  reverseChosen,
  rollChosen,
  smoothChosen,
} from './key-actions.ts';

/** How a key is marked in the page. */
export const keyMark = ({ channel, frame }: SelectedKey): string => `${channel}@${frame}`;

function keyOf({ subject }: CommandContext, session: Session): SelectedKey | null {
  if (subject?.kind !== 'key') return null;
  const at = subject.id.lastIndexOf('@');
  const [id, frame] = [subject.id.slice(0, at), Number(subject.id.slice(at + 1))];
  const ref = keyedChannels(session.state.scene).find((one) => channelId(one) === id);
  return ref && channelAt(session.state.scene, ref)?.keys.some((key) => key.frame === frame)
    ? { channel: channelId(ref), frame }
    : null;
}

const GROUP = say.keysOfTheStrip;

function keyCommands(session: Session): readonly Command[] {
  const isChosen = (key: SelectedKey) =>
    session.state.selectedKeys.some(({ channel, frame }) => channel === key.channel && frame === key.frame);
  /** The key that has the focus, or was clicked, is chosen first where it is not yet. */
  const withKey = (act: () => void) => (context: CommandContext) => {
    const key = keyOf(context, session);
    if (key && !isChosen(key)) session.selectKeys([key]);
    act();
  };
  const some = (context: CommandContext) =>
    session.state.selectedKeys.length > 0 || keyOf(context, session) !== null;
  const shared = { group: GROUP, on: 'key', when: some } as const;
  const small = { group: GROUP, when: some, keysOnly: true, repeats: true } as const;
  return [
    {
      ...shared,
      id: 'keys.copy',
      words: say.copy,
      keys: ['Ctrl+C'],
      run: withKey(() => copyChosen(session)),
    },
    {
      id: 'keys.paste',
      words: say.pasteKeysAtThePlayhead,
      group: GROUP,
      keys: ['Ctrl+V'],
      when: () => lastCopied() === 'keys',
      run: () => pasteCopied(session),
    },
    {
      ...shared,
      id: 'keys.duplicate',
      words: say.duplicateAfterTheLastOf,
      keys: ['Ctrl+D'],
      run: withKey(() => duplicateChosen(session)),
    },
    { ...shared, id: 'keys.reverse', words: say.reverseInTime, run: withKey(() => reverseChosen(session)) },
    { ...shared, id: 'keys.smooth', words: say.smoothTheSpeed, run: withKey(() => smoothChosen(session)) },
    {
      id: 'keys.all',
      words: say.chooseAllKeys,
      group: GROUP,
      keys: ['Ctrl+A'],
      run: () => {
        const { scene } = session.state;
        session.selectKeys(
          keyedChannels(scene).flatMap((ref) =>
            (channelAt(scene, ref)?.keys ?? []).map(({ frame }) => ({ channel: channelId(ref), frame })),
          ),
        );
      },
    },
    {
      ...shared,
      id: 'keys.of-channel',
      words: say.chooseAllKeysOfIts,
      when: (context) => keyOf(context, session) !== null,
      run: (context) => {
        const key = keyOf(context, session);
        const keys = key && channelAt(session.state.scene, channelRef(key.channel))?.keys;
        if (key && keys) session.selectKeys(keys.map(({ frame }) => ({ channel: key.channel, frame })));
      },
    },
    {
      ...shared,
      id: 'keys.delete',
      words: say.deleteIt,
      keys: ['Delete', 'Backspace'],
      danger: true,
      run: withKey(() => deleteChosen(session)),
    },
    {
      ...small,
      id: 'keys.earlier',
      words: say.moveByAFrame,
      keys: ['Alt+ArrowLeft'],
      run: withKey(() => moveChosen(session, -1)),
    },
    {
      ...small,
      id: 'keys.later',
      words: say.moveByAFrame,
      keys: ['Alt+ArrowRight'],
      run: withKey(() => moveChosen(session, 1)),
    },
    {
      ...small,
      id: 'keys.roll-earlier',
      words: say.rollBetweenTheirNeighboursThe,
      keys: ['Alt+Shift+ArrowLeft'],
      run: withKey(() => rollChosen(session, -1)),
    },
    {
      ...small,
      id: 'keys.roll-later',
      words: say.rollBetweenTheirNeighbours,
      keys: ['Alt+Shift+ArrowRight'],
      run: withKey(() => rollChosen(session, 1)),
    },
  ];
}

/** What can be done with keys, where the timing strip is. */
export function useKeyCommands(): void {
  const session = useSession();
  useCommands(
    'part',
    useMemo(() => keyCommands(session), [session]),
  );
}
