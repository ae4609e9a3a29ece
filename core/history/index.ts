export { EDIT_ACTIONS, type EditAction } from './actions.ts';
export { type Author, authorSchema, NOBODY } from './author.ts';
export { differenceBetween } from './difference.ts';
export {
  type HistoryEntry,
  historyEntrySchema,
  type Op,
  opSchema,
  patchOfStep,
  type Revision,
  revisionSchema,
} from './entry.ts';
export { SceneFeed, type SceneMessage, SceneMirror } from './feed.ts';
export { applyPatch, type Landed, landPatch } from './land.ts';
export { historyByRecord, type OldEdit } from './old-history.ts';
export { inverseOf, type Patch, patchSchema, touchedBy } from './patch.ts';
export { overlap } from './pointer.ts';
export {
  type Pending,
  type Replica,
  received,
  restored,
  sceneBefore,
  sceneOfReplica,
  stacksOfReplica,
  type TakeBackFault,
  withEdit,
  withoutOp,
  withRedo,
  withUndo,
} from './replica.ts';
export { sameData } from './same-data.ts';
