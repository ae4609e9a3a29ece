import type { Plane } from '@keen-ridge/core/scene';

/** The value that all planes share, or null when they differ. */
export function common(planes: readonly Plane[], value: (plane: Plane) => number): number | null {
  const [first, ...rest] = planes.map(value);
  return first !== undefined && rest.every((v) => v === first) ? first : null;
}
