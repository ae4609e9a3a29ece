/** Every kind of edit that the history can name. The words for them belong to the interface. */
export const EDIT_ACTIONS = [
  'add-planes',
  'delete-planes',
  'rename-plane',
  'hide-planes',
  'show-planes',
  'set-depth',
  'set-opacity',
  'place-plane',
  'remount-plane',
  'reorder-plane',
  'key-camera',
  'shift-camera',
  'move-keys',
  'delete-keys',
  'set-ease',
  'set-length',
  'set-frame-size',
  'set-rate',
] as const;
export type EditAction = (typeof EDIT_ACTIONS)[number];
