import type { Plane } from '@keen-ridge/core/scene';

export type StackRow =
  | {
      readonly kind: 'group';
      readonly name: string;
      readonly planes: readonly Plane[];
      readonly open: boolean;
    }
  | { readonly kind: 'plane'; readonly plane: Plane; readonly inGroup: boolean };

/** Where a row stands in the list: CSS px from its top, and which of how many it is. */
export interface RowPlace {
  readonly top: number;
  readonly at: number;
  readonly of: number;
}

export const rowKey = (row: StackRow): string =>
  row.kind === 'group' ? `group ${row.name}` : `plane ${row.plane.id}`;

/** The rows of the stack in order of the list: a group's heading stands over its first plane. */
export function stackRows(planes: readonly Plane[], closed: ReadonlySet<string>, find: string): StackRow[] {
  const wanted = find.trim().toLocaleLowerCase();
  const matches = ({ name, group }: Plane) =>
    wanted === '' || `${name} ${group ?? ''}`.toLocaleLowerCase().includes(wanted);
  const headed = new Set<string>();
  return planes.flatMap((plane): StackRow[] => {
    const { group } = plane;
    const rows: StackRow[] = [];
    if (group !== null && !headed.has(group)) {
      headed.add(group);
      const inside = planes.filter((other) => other.group === group);
      if (inside.some(matches))
        rows.push({ kind: 'group', name: group, planes: inside, open: !closed.has(group) });
    }
    const shown = matches(plane) && (group === null || wanted !== '' || !closed.has(group));
    return shown ? [...rows, { kind: 'plane', plane, inGroup: group !== null }] : rows;
  });
}
