export {
  boundsOf,
  type CopiedKeys,
  clearChannel,
  copyKeys,
  deleteSelected,
  duplicateSelected,
  easeSelected,
  type KeySelection,
  keyAsItIs,
  moveSelected,
  pasteKeys,
  restCamera,
  reverseSelected,
  rollSelected,
  setChannelBeyond,
  setChannelLocked,
  setChannelMuted,
  setSelectedValue,
  smoothSelected,
  stretchSelected,
} from './keys.ts';
export { keyPlanesOnFrame } from './plane-moves.ts';
export {
  type CameraChange,
  fromTheStart,
  isChannelLocked,
  isOnTrack,
  setCamera,
  setChannelValue,
} from './set-values.ts';
export { withChannel, withTrack } from './with-channel.ts';
