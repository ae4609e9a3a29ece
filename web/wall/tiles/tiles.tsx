import { lazy, Suspense } from 'react';
import type { TilesProps } from './tile-drag.ts';
import { TileGrid } from './tile-grid.tsx';

// Asked for before the wall is, so that it is there by the time that there are shots: tiles that were drawn anew under a
// pointer would close the menu that it has opened. Where it cannot be had, shots stay in their order.
const loading = import('./movable-tiles.tsx').then(
  (part) => ({ default: part.MovableTiles }),
  () => ({ default: RestingTiles }),
);
const MovableTiles = lazy(() => loading);

function RestingTiles({ shots, children }: TilesProps) {
  return <TileGrid shots={shots}>{(shot, place) => children(shot, place, null)}</TileGrid>;
}

/** Shots side by side and row under row, to be dragged into another order where that is theirs. */
export function Tiles(tiles: TilesProps) {
  return (
    // Their room is kept until then: what stands below would move away under the pointer.
    <Suspense fallback={<TileGrid shots={tiles.shots}>{() => null}</TileGrid>}>
      <MovableTiles {...tiles} />
    </Suspense>
  );
}
