import type { ImportedNode } from '@keen-ridge/core/art/landing';
import { EyeOff, Film, Folder } from 'lucide-react';
import { ArtThumbnail } from '../planes/plane-thumbnail.tsx';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { formatNumber } from '../ui/format.ts';
import { changePainting, type LookedAt, layerCount, toggled } from './import-store.ts';

interface LayerTreeProps {
  index: number;
  looked: LookedAt;
  nodes: readonly ImportedNode[];
  depth: number;
  /** Lies in a group that becomes one plane. */
  inMerged: boolean;
}

/** The layers of a painting on top first, with a tick for each that lands and a switch for each group. */
export function LayerTree({ index, looked, nodes, depth, inMerged }: LayerTreeProps) {
  const { left, merged } = looked;
  return (
    <ul aria-label={depth === 0 ? 'Layers' : undefined}>
      {nodes.map((node) => {
        const out = left.has(node.key);
        return (
          <li key={node.key}>
            <div
              className={classes(
                'flex items-center gap-2 border-b border-rule-light py-1 pr-2',
                out && 'opacity-45',
              )}
              style={{ paddingLeft: 8 + depth * 18 }}
            >
              <input
                type="checkbox"
                aria-label={`Bring in ${node.name}`}
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
              <span className={classes('min-w-0 flex-1 truncate', inMerged && 'text-ink-2')}>
                {node.name}
              </span>
              {node.hidden && <EyeOff size={13} aria-label="hidden" className="shrink-0 text-ink-2" />}
              {node.opacity < 1 && (
                <span className="num shrink-0 text-ink-2">{formatNumber(node.opacity * 100)} %</span>
              )}
              <NodeFacts node={node} />
              {node.kind === 'group' && !inMerged && (
                <Button
                  on={merged.has(node.key)}
                  onClick={() => changePainting(index, { merged: toggled(merged, node.key) })}
                >
                  One plane
                </Button>
              )}
            </div>
            {node.kind === 'group' && !out && (
              <LayerTree
                index={index}
                looked={looked}
                nodes={node.children}
                depth={depth + 1}
                inMerged={inMerged || merged.has(node.key)}
              />
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
          <Film size={12} aria-hidden="true" /> {node.frames.length} ·
        </>
      )}
      {node.art.widthPx} × {node.art.heightPx}
    </span>
  );
}
