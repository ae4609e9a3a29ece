import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { arrayMove, rectSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ShotCard } from '@keen-ridge/core/contract/wall';
import type { TilesProps } from './tile-drag.ts';
import { TileGrid, type TilePlace } from './tile-grid.tsx';

/** Shots that are dragged into another order by the grip of their tile, where that is theirs. */
export function MovableTiles({ shots, movable, onOrder, children }: TilesProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const ids = shots.map(({ id }) => id);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={ids} strategy={rectSortingStrategy} disabled={!movable}>
        <TileGrid shots={shots}>
          {(shot, place) => (
            <MovableTile key={shot.id} shot={shot} place={place} movable={movable}>
              {children}
            </MovableTile>
          )}
        </TileGrid>
      </SortableContext>
    </DndContext>
  );
}

interface MovableTileProps extends Pick<TilesProps, 'children' | 'movable'> {
  shot: ShotCard;
  place: TilePlace;
}

function MovableTile({ shot, place, movable, children }: MovableTileProps) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: shot.id });
  if (!movable) return children(shot, place, null);
  return children(shot, place, {
    tile: setNodeRef,
    grip: listeners ?? {},
    style: { transform: CSS.Translate.toString(transform), transition },
    isDragging,
  });
}
