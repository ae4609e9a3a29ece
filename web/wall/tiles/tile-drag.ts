import type { ShotCard } from '@keen-ridge/core/contract/wall';
import type { CSSProperties, HTMLAttributes, ReactNode } from 'react';
import type { TilePlace } from './tile-grid.tsx';

/** How a tile is dragged among the others. */
export interface TileDrag {
  readonly tile: (element: HTMLElement | null) => void;
  readonly grip: HTMLAttributes<HTMLElement>;
  readonly style: CSSProperties;
  readonly isDragging: boolean;
}

export interface TilesProps {
  shots: readonly ShotCard[];
  /** Their order is the artist's to change. */
  movable: boolean;
  /** They were dragged into another order. */
  onOrder: (shotIds: readonly string[]) => void;
  /** The last is null where a tile cannot be dragged. */
  children: (shot: ShotCard, place: TilePlace, drag: TileDrag | null) => ReactNode;
}
