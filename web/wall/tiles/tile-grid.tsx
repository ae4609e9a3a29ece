import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { useElementSize } from '../../ui/use-element-size.ts';

/** Where a tile lies, CSS px within its grid, and which of how many it is. */
export interface TilePlace {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly at: number;
  readonly of: number;
}

const GAP = 20;
const LEAST_WIDTH = 340;
/** Name and measures under the picture, CSS px. */
const FOOT = 44;
const ROWS_READY = 2;

/** How wide and high a tile is, and how many stand side by side, in a grid so many CSS px wide. */
export function tileSize(gridWidth: number): { columns: number; width: number; height: number } {
  const columns = Math.max(1, Math.floor((gridWidth + GAP) / (LEAST_WIDTH + GAP)));
  const width = (gridWidth - GAP * (columns - 1)) / columns;
  return { columns, width, height: Math.round((width * 9) / 16) + FOOT };
}

interface TileGridProps {
  shots: readonly ShotCard[];
  children: (shot: ShotCard, place: TilePlace) => ReactNode;
}

/** Shots side by side and row under row; only rows that are seen or about to be are in the page. */
export function TileGrid({ shots, children }: TileGridProps) {
  const list = useRef<HTMLUListElement>(null);
  const { columns, width, height } = tileSize(useElementSize(list).width);
  const [from, setFrom] = useState(0);
  // What stands above may have grown: where the grid begins is looked up whenever the wall is drawn.
  useLayoutEffect(() => {
    const top = list.current ? list.current.getBoundingClientRect().top + window.scrollY : 0;
    setFrom((was) => (Math.abs(was - top) < 1 ? was : top));
  });
  const virtual = useWindowVirtualizer({
    count: Math.ceil(shots.length / columns),
    estimateSize: () => height + GAP,
    scrollMargin: from,
    overscan: ROWS_READY,
  });
  useLayoutEffect(() => {
    if (height > 0) virtual.measure();
  }, [virtual, height]);
  return (
    <ul ref={list} className="relative" style={{ height: Math.max(0, virtual.getTotalSize() - GAP) }}>
      {width > 0 &&
        virtual.getVirtualItems().flatMap(({ index, start }) =>
          shots.slice(index * columns, (index + 1) * columns).map((shot, column) =>
            children(shot, {
              left: column * (width + GAP),
              top: start - from,
              width,
              at: index * columns + column + 1,
              of: shots.length,
            }),
          ),
        )}
    </ul>
  );
}
