/** How px of an image became px of its next version: so many times as fine, and moved. */
export interface PxMap {
  readonly scale: number;
  readonly dxPx: number;
  readonly dyPx: number;
}
