import type { CutPieces } from '@keen-ridge/core/cut';
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
  | { readonly kind: 'cut'; readonly id: number; readonly recipe: CutRecipe };

export type FromCutWorker =
  | { readonly kind: 'mask'; readonly id: number; readonly mask: Uint8Array }
  | { readonly kind: 'progress'; readonly id: number; readonly share: number }
  | { readonly kind: 'pieces'; readonly id: number; readonly pieces: CutPieces | null }
  | { readonly kind: 'failed'; readonly id: number; readonly reason: string };
