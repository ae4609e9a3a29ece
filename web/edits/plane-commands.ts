import { type PlaneId, planeIdSchema } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { useMemo } from 'react';
import { create } from 'zustand';
import type { Command, CommandContext } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { lastCopied } from '../session/choices/copied-planes.ts';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { editsWords as say } from '../words/edits.ts';
import {
  groupPlanes,
  removePlanes,
  toggleHidden,
  toggleLocked,
  toggleSolo,
  ungroupPlanes,
} from './art-edits.ts';
import { copyPlanes, joinAsDrawings, pasteCopiedPlanes, takeDrawingsApart } from './carry-planes.ts';

/** The plane whose name is being changed where it is listed. */
export const useRenaming = create<{ readonly id: PlaneId | null }>(() => ({ id: null }));
export const renamePlaneInPlace = (id: PlaneId | null): void => useRenaming.setState({ id });

/** What a command is meant for: the plane that has the focus or was clicked, with all that are chosen where it is one of them. */
export function planesMeant(session: Session, { subject }: CommandContext): readonly PlaneId[] {
  const { scene, selection } = session.state;
  const here = subject?.kind === 'plane' ? planeOf(scene, subject.id)?.id : undefined;
  return here && !selection.includes(here) ? [here] : selection;
}

const GROUP = 'Planes';

function planeCommands(session: Session): readonly Command[] {
  const meant = (context: CommandContext) => planesMeant(session, context);
  const some = (context: CommandContext) => meant(context).length > 0;
  const planes = (context: CommandContext) => {
    const ids = meant(context);
    return planesOf(session.state.scene).filter(({ id }) => ids.includes(id));
  };
  const shared = { group: GROUP, on: 'plane', when: some } as const;
  return [
    {
      ...shared,
      id: 'planes.rename',
      words: say.rename,
      keys: ['F2'],
      place: 'planes',
      when: ({ subject }) => subject?.kind === 'plane',
      run: ({ subject }) => subject && renamePlaneInPlace(planeIdSchema.parse(subject.id)),
    },
    {
      ...shared,
      id: 'planes.hide',
      words: say.hideOrShow,
      keys: ['H'],
      place: 'planes',
      run: (context) => toggleHidden(session, planes(context)),
    },
    {
      ...shared,
      id: 'planes.lock',
      words: say.lockOrUnlock,
      keys: ['L'],
      place: 'planes',
      run: (context) => toggleLocked(session, planes(context)),
    },
    {
      ...shared,
      id: 'planes.solo',
      words: say.showAloneOrWithThe,
      keys: ['S'],
      place: 'planes',
      run: (context) => toggleSolo(session, meant(context)),
    },
    {
      ...shared,
      id: 'planes.copy',
      words: say.copyForThisShotOr,
      keys: ['Ctrl+C'],
      run: (context) => copyPlanes(session, meant(context)),
    },
    {
      id: 'planes.paste',
      words: say.pastePlanes,
      group: GROUP,
      keys: ['Ctrl+V'],
      when: () => lastCopied() === 'planes',
      run: () => pasteCopiedPlanes(session),
    },
    {
      ...shared,
      id: 'planes.as-drawings',
      words: say.makeOneMovingPlaneOf,
      when: (context) => meant(context).length > 1,
      run: (context) => joinAsDrawings(session, meant(context)),
    },
    {
      ...shared,
      id: 'planes.drawings-apart',
      words: say.makePlanesOfItsDrawings,
      when: (context) => planes(context).some(({ content }) => content.kind === 'moving'),
      run: (context) => takeDrawingsApart(session, meant(context)),
    },
    {
      ...shared,
      id: 'planes.group',
      words: say.group,
      keys: ['Ctrl+G'],
      when: (context) => meant(context).length > 1,
      run: (context) => groupPlanes(session, meant(context)),
    },
    {
      ...shared,
      id: 'planes.ungroup',
      words: say.ungroup,
      keys: ['Ctrl+Shift+G'],
      when: (context) => planes(context).some(({ group }) => group !== null),
      run: (context) => ungroupPlanes(session, meant(context)),
    },
    {
      id: 'planes.all',
      words: say.chooseAllPlanes,
      group: GROUP,
      keys: ['Ctrl+A'],
      run: () => session.select(planesOf(session.state.scene).map(({ id }) => id)),
    },
    {
      ...shared,
      id: 'planes.delete',
      words: say.deleteIt,
      keys: ['Delete', 'Backspace'],
      danger: true,
      run: (context) => removePlanes(session, meant(context)),
    },
  ];
}

/** What can be done with planes, on the steps that show them. */
export function usePlaneCommands(): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo(() => planeCommands(session), [session]),
  );
}
