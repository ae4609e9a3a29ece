import type { CoarseFill, CutPieces, OutlineChange } from '@keen-ridge/core/cut';
import type { Box, PxMap } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import type { CutRecipe, SelectionStep } from '@keen-ridge/core/scene';

export type ToCutWorker =
  | {
      readonly kind: 'open';
      readonly id: number;
      readonly widthPx: number;
      readonly heightPx: number;
      readonly pixels: Uint8Array;
    }
  | {
      readonly kind: 'mask';
      readonly id: number;
      readonly steps: readonly SelectionStep[];
      readonly featherPx: number;
    }
  | { readonly kind: 'cut'; readonly id: number; readonly recipe: CutRecipe }
  /** What is bare within boxes, art px, painted from round about. */
  | { readonly kind: 'fill'; readonly id: number; readonly boxes: readonly Box[] }
  /** Where along the outline of a cut the open image is painted otherwise than one before it. */
  | {
      readonly kind: 'compare';
      readonly id: number;
      readonly before: Raster<'straight'>;
      readonly recipe: CutRecipe;
      readonly map: PxMap;
    };

export type FromCutWorker =
  | { readonly kind: 'mask'; readonly id: number; readonly mask: Uint8Array }
  | { readonly kind: 'progress'; readonly id: number; readonly share: number }
  | { readonly kind: 'coarse'; readonly id: number; readonly coarse: CoarseFill }
  | { readonly kind: 'pieces'; readonly id: number; readonly pieces: CutPieces | null }
  | { readonly kind: 'filled'; readonly id: number; readonly image: Raster<'straight'> | null }
  | { readonly kind: 'compared'; readonly id: number; readonly change: OutlineChange | null }
  | { readonly kind: 'failed'; readonly id: number; readonly reason: string };
