import { restoreIt, useBin, useWallChange } from '../api/queries.ts';
import { tellFault } from '../edits/while-told.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { formatWhen } from '../ui/format.ts';
import { wallWords as say } from '../words/wall.ts';

/** What was deleted, to bring it back. Nothing in it is given up. */
export function BinDialog({ onClose }: { onClose: () => void }) {
  const bin = useBin();
  const restore = useWallChange(restoreIt);
  const items = bin.data?.items ?? [];
  return (
    <Dialog open onClose={onClose} title={say.bin} width={560}>
      {bin.isPending && <p role="status">{say.reading}</p>}
      {bin.isError && (
        <p role="alert" className="text-fault">
          {say.theBinCannotBeRead(bin.error.message)}
        </p>
      )}
      {bin.isSuccess && items.length === 0 && <p className="text-ink-2">{say.nothingHasBeenDeleted}</p>}
      <ul aria-label={say.deleted} className="max-h-[46vh] overflow-auto">
        {items.map(({ kind, id, name, productionName, deletedAt }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule-light py-1.5">
            <span className="min-w-0 flex-1 truncate">
              <span className="font-semibold">{name}</span>{' '}
              <span className="text-ink-2">
                {kind === 'production'
                  ? say.productionWithItsShots
                  : say.ofProductionName(productionName ?? '')}
              </span>
            </span>
            <span className="num shrink-0 text-ink-2">{formatWhen(deletedAt)}</span>
            <Button
              aria-label={say.bringBackName(name)}
              onClick={() => restore.mutate({ kind, id }, { onError: tellFault })}
            >
              {say.bringBack}
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button onClick={onClose}>{say.close}</Button>
      </div>
    </Dialog>
  );
}
