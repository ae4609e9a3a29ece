import { TabRow } from '../ui/tab-row.tsx';
import { bringInWords as say } from '../words/bring-in.ts';
import { layerCount, useImport } from './import-store.ts';

/** One tab a painting, when several files came at once. */
export function PaintingTabs() {
  const paintings = useImport((state) => state.paintings);
  return (
    <TabRow
      label={say.paintings}
      className="overflow-x-auto border-b border-rule pb-px"
      tabs={paintings.map(({ painting }, i) => ({
        value: String(i),
        words: (
          <>
            {painting.file} <span className="num text-ink-2">{layerCount(painting.nodes)}</span>
          </>
        ),
      }))}
    />
  );
}
