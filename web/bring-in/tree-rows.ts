import type { ImportedNode } from '@keen-ridge/core/art/landing';

/** A node of a painting as it is listed: how deep it lies, and whether in a group that becomes one plane. */
export interface TreeRow {
  readonly node: ImportedNode;
  readonly depth: number;
  readonly inMerged: boolean;
}

/** The nodes as they are listed, on top first; what lies in a group that is left out is not listed. */
export function treeRows(
  nodes: readonly ImportedNode[],
  { left, merged }: { readonly left: ReadonlySet<string>; readonly merged: ReadonlySet<string> },
  depth = 0,
  inMerged = false,
): TreeRow[] {
  return nodes.flatMap((node): TreeRow[] => {
    const row = { node, depth, inMerged };
    if (node.kind === 'layer' || left.has(node.key)) return [row];
    return [row, ...treeRows(node.children, { left, merged }, depth + 1, inMerged || merged.has(node.key))];
  });
}
