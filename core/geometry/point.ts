/** +X right, +Y down. The unit (stage, art or output px) stands in the name of whatever holds it. */
export interface Point {
  readonly x: number;
  readonly y: number;
}
