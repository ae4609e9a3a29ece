import type { ImportedNode } from '@keen-ridge/core/art/landing';
import { useVirtualizer } from '@tanstack/react-virtual';
import { EyeOff, Film, Folder } from 'lucide-react';
import { ArtThumbnail } from '../planes/plane-thumbnail.tsx';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { formatNumber } from '../ui/format.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import { MODE_WORDS } from '../words/look.ts';
import { changePainting, type LookedAt, layerCount, toggled } from './import-store.ts';
import { treeRows } from './tree-rows.ts';

const ROW_HEIGHT = 36;
const ROWS_READY = 12;

interface LayerTreeProps {
  index: number;
  looked: LookedAt;
  /** Scrolls it. */
  room: HTMLElement | null;
}

/** The layers of a painting on top first, with a tick for each that lands and a switch for each group. */
export function LayerTree({ index, looked, room }: LayerTreeProps) {
  const { left, merged, painting } = looked;
  const rows = treeRows(painting.nodes, looked);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => room,
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (at) => rows[at]!.node.key,
    overscan: ROWS_READY,
  });
  return (
    <ul aria-label={say.layers} className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map(({ index: at, key, start }) => {
        const { node, depth, inMerged } = rows[at]!;
        const out = left.has(node.key);
        return (
          <li
            key={key}
            aria-posinset={at + 1}
            aria-setsize={rows.length}
            className={classes(
              'absolute inset-x-0 flex items-center gap-2 border-b border-rule-light pr-2',
              out && 'opacity-45',
            )}
            style={{ top: start, height: ROW_HEIGHT, paddingLeft: 4 + depth * 18 }}
          >
            <Checkbox
              label={say.bringInName(node.name)}
              checked={!out}
              onChange={() => changePainting(index, { left: toggled(left, node.key) })}
            />
            {node.kind === 'layer' ? (
              <ArtThumbnail artId={node.art.id} className="h-[27px] w-12 shrink-0" />
            ) : (
              <span className="grid h-[27px] w-12 shrink-0 place-items-center text-ink-2">
                <Folder size={16} aria-hidden="true" />
              </span>
            )}
            <span className={classes('min-w-0 flex-1 truncate', inMerged && 'text-ink-2')}>{node.name}</span>
            {node.hidden && <EyeOff size={13} aria-label={say.hidden} className="shrink-0 text-ink-2" />}
            {node.kind === 'layer' && node.mode && (
              <span className="shrink-0 text-ink-2">{MODE_WORDS[node.mode]}</span>
            )}
            {node.opacity < 1 && (
              <span className="num shrink-0 text-ink-2">{formatNumber(node.opacity * 100)} %</span>
            )}
            <NodeFacts node={node} />
            {node.kind === 'group' && !inMerged && (
              <Button
                on={merged.has(node.key)}
                onClick={() => changePainting(index, { merged: toggled(merged, node.key) })}
              >
                {say.onePlane}
              </Button>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function NodeFacts({ node }: { node: ImportedNode }) {
  if (node.kind === 'group')
    return <span className="num shrink-0 text-ink-2">{layerCount(node.children)}</span>;
  return (
    <span className="num flex shrink-0 items-center gap-1 text-ink-2">
      {node.frames && (
        <>
          <Film size={12} aria-hidden="true" /> {node.frames.length} ·{' '}
        </>
      )}
      {node.art.widthPx} × {node.art.heightPx}
    </span>
  );
}
