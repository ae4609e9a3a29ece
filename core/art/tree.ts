import type { BlendMode } from '../paint/index.ts';
import { cleanName } from '../units/index.ts';
import type { NotKept } from './not-kept.ts';

/** Longest name of a layer or group that is kept, in UTF-16 units: as long as a plane's may be. */
const LONGEST_LAYER_NAME = 200;
/** Groups within groups past which a file was made to break readers, not to paint in. */
export const DEEPEST_GROUPS = 100;

/** The name of a layer or group as it is kept. */
export const layerName = (name: string | undefined, unnamed: string): string =>
  cleanName(name ?? '', LONGEST_LAYER_NAME) || unnamed;

/** A layer of a painting with its image `I`. Offsets in px from the painting's upper left corner; they may be negative. */
export interface TreeLayer<I> {
  readonly kind: 'layer';
  readonly name: string;
  readonly xPx: number;
  readonly yPx: number;
  /** 0 to 1. */
  readonly opacity: number;
  readonly hidden: boolean;
  /** How it is laid over what is behind it; as paint where nothing is said. */
  readonly mode?: BlendMode | undefined;
  readonly image: I;
}

export interface TreeGroup<I> {
  readonly kind: 'group';
  readonly name: string;
  readonly opacity: number;
  readonly hidden: boolean;
  /** On top first. */
  readonly children: readonly TreeNode<I>[];
}

export type TreeNode<I> = TreeLayer<I> | TreeGroup<I>;

/** A layered painting as its file has it. */
export interface Painting<I> {
  readonly widthPx: number;
  readonly heightPx: number;
  /** On top first. */
  readonly nodes: readonly TreeNode<I>[];
  readonly notKept: readonly NotKept[];
}

/** A layer with what its groups do to it. */
export interface Leaf<I> {
  readonly layer: TreeLayer<I>;
  /** Names of its groups, outermost first, joined by ` / `; null at the top. */
  readonly group: string | null;
  readonly opacity: number;
  readonly hidden: boolean;
}

/** All layers, on top first, with the opacity and visibility of their groups worked in. */
export function leavesOf<I>(nodes: readonly TreeNode<I>[], within?: Omit<Leaf<I>, 'layer'>): Leaf<I>[] {
  const outer = within ?? { group: null, opacity: 1, hidden: false };
  return nodes.flatMap((node): Leaf<I>[] => {
    const opacity = outer.opacity * node.opacity;
    const hidden = outer.hidden || node.hidden;
    if (node.kind === 'layer') return [{ layer: node, group: outer.group, opacity, hidden }];
    const group = layerName(outer.group === null ? node.name : `${outer.group} / ${node.name}`, 'Group');
    return leavesOf(node.children, { group, opacity, hidden });
  });
}

/** Whether something within a group is laid over by light. */
export const hasModes = <I>(nodes: readonly TreeNode<I>[]): boolean =>
  leavesOf(nodes).some(({ layer }) => layer.mode !== undefined);
