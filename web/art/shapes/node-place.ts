export interface NodePlace {
  readonly outline: number;
  readonly index: number;
}
