export const NOT_KEPT_CODES = [
  'blend-mode',
  'blend-mode-nearly',
  'isolated-group',
  'group-opacity',
  'text-layer',
  'filter',
  'colour-depth',
  'deep-colour',
  'empty-layer',
  'effects',
  'script',
  'outside-reference',
  'other-file',
] as const;
export type NotKeptCode = (typeof NOT_KEPT_CODES)[number];

/** A feature of the file that a plane cannot hold, and where it stood. The words belong to the interface. */
export interface NotKept {
  readonly code: NotKeptCode;
  readonly layer: string;
  readonly detail: string;
}

export const ART_FAULT_CODES = [
  'not-this-format',
  'damaged',
  'too-large',
  'too-heavy',
  'no-decoder',
  'missing-part',
  'no-layers',
  'no-package',
] as const;

/** Why a file could not be read at all. */
export interface ArtFault {
  readonly code: (typeof ART_FAULT_CODES)[number];
  readonly detail: string;
}
