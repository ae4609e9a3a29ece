import { toast } from 'sonner';
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

const sayFault = { onError: (error: Error) => void toast.error(error.message) };

/** What can be done to productions and shots on the wall; each says what went wrong. */
export function useWallActs() {
  const remove = useWallChange(deleteIt);
  const restore = useWallChange(restoreIt);
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
            void toast(`Deleted “${name}”`, {
              action: { label: 'Undo', onClick: () => restore.mutate({ kind, id }, sayFault) },
            }),
        },
      ),
    rename: (kind: Kind, id: string, name: string) => rename.mutate({ kind, id, name }, sayFault),
    duplicate: (id: string, name: string, withMove: boolean) =>
      duplicate.mutate(
        { id, name, withMove },
        { ...sayFault, onSuccess: () => void toast(`Made “${name}”`, { duration: 2500 }) },
      ),
    move: (id: string, name: string, productionId: string, to: string) =>
      move.mutate(
        { id, productionId },
        { ...sayFault, onSuccess: () => void toast(`Moved “${name}” to ${to}`, { duration: 2500 }) },
      ),
    order: (productionId: string, shotIds: readonly string[]) =>
      order.mutate({ productionId, shotIds }, sayFault),
  };
}

export type WallActs = ReturnType<typeof useWallActs>;
