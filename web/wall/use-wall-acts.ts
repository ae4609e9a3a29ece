import type { ProductionExport, ShotCard } from '@keen-ridge/core/contract/wall';
import { toast } from 'sonner';
import { fetchFile, saveFile } from '../api/download.ts';
import {
  deleteIt,
  duplicateIt,
  type Kind,
  moveToProduction,
  orderShots,
  renameIt,
  restoreIt,
  useWallChange,
} from '../api/queries.ts';
import { askHandoff } from '../api/use-handoffs.ts';
import { tellFault, whileTold } from '../edits/while-told.ts';
import { handoffRequest, wholeShot } from '../session/choices/handoff-wish.ts';
import type { HandoffSettings } from '../session/choices/preferences.ts';
import { counted } from '../ui/format.ts';
import { wallWords as say } from '../words/wall.ts';

const sayFault = { onError: tellFault };

/** What can be done to productions and shots on the wall; each says what went wrong. */
export function useWallActs() {
  const remove = useWallChange(deleteIt);
  const restore = useWallChange(restoreIt);
  const each = (change: typeof deleteIt) => async (ids: readonly string[]) => {
    for (const id of ids) await change({ kind: 'shot', id });
  };
  const removeAll = useWallChange(each(deleteIt));
  const restoreAll = useWallChange(each(restoreIt));
  const rename = useWallChange(renameIt);
  const duplicate = useWallChange(duplicateIt);
  const move = useWallChange(moveToProduction);
  const order = useWallChange(orderShots);
  return {
    /** Deletes at once, since it can be taken back at once, and later from the bin. */
    remove: (kind: Kind, id: string, name: string) =>
      remove.mutate(
        { kind, id },
        {
          ...sayFault,
          onSuccess: () =>
            void toast(say.deletedName(name), {
              action: { label: say.undo, onClick: () => restore.mutate({ kind, id }, sayFault) },
            }),
        },
      ),
    /** Deletes several shots at once, to be taken back at once. */
    removeShots: (ids: readonly string[]) =>
      removeAll.mutate(ids, {
        ...sayFault,
        onSuccess: () =>
          void toast(say.deletedCounted(counted(ids.length, 'shot')), {
            action: { label: say.undo, onClick: () => restoreAll.mutate(ids, sayFault) },
          }),
      }),
    /** Saves the list of shots, or the timeline, of a production; made while one waits, since every shot is surveyed. */
    save: async (productionId: string, as: ProductionExport) => {
      const address = `/api/productions/${productionId}/export?as=${as}`;
      const file = await whileTold(as === 'sheet' ? say.drawingItsShots : say.surveyingItsShots, (signal) =>
        fetchFile(address, signal),
      );
      if (file) saveFile(file.name, file.blob);
    },
    /** Asks for the same hand-off of each, one after another; what one lacks does not stand in the way of the others. */
    handOff: async (shots: readonly ShotCard[], settings: HandoffSettings) => {
      const failed: string[] = [];
      for (const shot of shots) {
        const whole = { start: 1, end: shot.lengthFrames + 1 };
        const request = handoffRequest(settings, wholeShot(shot), shot, whole);
        await askHandoff(shot.id)(request).catch((error: Error) =>
          failed.push(`${shot.name}: ${error.message}`),
        );
      }
      const done = shots.length - failed.length;
      if (done > 0) toast.success(say.countedAreHandedOff(counted(done, 'shot')));
      for (const words of failed) toast.error(words);
    },
    rename: (kind: Kind, id: string, name: string) => rename.mutate({ kind, id, name }, sayFault),
    duplicate: (id: string, name: string, withMove: boolean) =>
      duplicate.mutate(
        { id, name, withMove },
        { ...sayFault, onSuccess: () => void toast(say.madeName(name), { duration: 2500 }) },
      ),
    move: (id: string, name: string, productionId: string, to: string) =>
      move.mutate(
        { id, productionId },
        { ...sayFault, onSuccess: () => void toast(say.movedNameToTo(name, to), { duration: 2500 }) },
      ),
    order: (productionId: string, shotIds: readonly string[]) =>
      order.mutate({ productionId, shotIds }, sayFault),
  };
}

export type WallActs = ReturnType<typeof useWallActs>;
