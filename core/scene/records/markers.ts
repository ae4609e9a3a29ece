import { memo } from '../../units/index.ts';
import type { Marker, MarkerId, Scene } from '../index.ts';

export type ListedMarker = Marker & { readonly id: MarkerId };

const listed = memo((markers: Scene['markers']): readonly ListedMarker[] =>
  Object.entries(markers)
    .map(([id, marker]) => ({ ...marker, id: id as MarkerId }))
    .sort((p, q) => p.frame - q.frame || (p.id < q.id ? -1 : 1)),
);

/** All markers in order of frame. */
export const markersOf = ({ markers }: Pick<Scene, 'markers'>): readonly ListedMarker[] => listed(markers);
