export {
  ART_FAULT_CODES,
  type ArtFault,
  NOT_KEPT_CODES,
  type NotKept,
  type NotKeptCode,
} from './not-kept.ts';
export { findSequences, holdsOfDelays, type Sequence } from './sequence.ts';
export { ART_FILE_KINDS, type ArtFileKind, sniff } from './sniff.ts';
export {
  DEEPEST_GROUPS,
  type Leaf,
  layerName,
  leavesOf,
  type Painting,
  type TreeGroup,
  type TreeLayer,
  type TreeNode,
} from './tree.ts';
