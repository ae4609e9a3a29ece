import { classes } from '../ui/class-names.ts';
import { layerCount, setImport, useImport } from './import-store.ts';

/** One tab a painting, when several files came at once. */
export function PaintingTabs() {
  const { paintings, chosen } = useImport();
  return (
    <div
      role="tablist"
      aria-label="Paintings"
      className="flex gap-1 overflow-x-auto border-b border-rule pb-px"
    >
      {paintings.map(({ painting }, i) => (
        <button
          // biome-ignore lint/suspicious/noArrayIndexKey: the list is fixed while it is shown, and names may repeat
          key={i}
          type="button"
          role="tab"
          aria-selected={i === chosen}
          className={classes(
            'max-w-[180px] shrink-0 cursor-pointer truncate border-b-2 px-2 py-1',
            i === chosen ? 'border-ink font-semibold' : 'border-transparent text-ink-2',
          )}
          onClick={() => setImport({ chosen: i })}
        >
          {painting.file} <span className="num text-ink-2">{layerCount(painting.nodes)}</span>
        </button>
      ))}
    </div>
  );
}
