import type { ArtFault } from '@keen-ridge/core/art';
import type { ImportedPainting } from '@keen-ridge/core/contract';
import type { Result } from '@keen-ridge/core/units';
import type { ImageSink } from './keep-image.ts';

export interface ReadOptions {
  readonly sink: ImageSink;
  readonly svgScale?: number;
  /** Told as images are done; `total` is known from the start of a document. */
  readonly onProgress?: (done: number, total: number, what: string) => void;
  /** Files inside an archive are told from where they lie. */
  readonly within?: string;
}

export type ReadResult = Result<ImportedPainting[], ArtFault>;

/** `a/b/Sky.v2.png` → `Sky.v2`. */
export const stemOf = (fileName: string): string =>
  (
    fileName
      .replace(/^.*[/\\]/, '')
      .replace(/\.[a-z0-9]{2,4}$/i, '')
      .trim() || 'Untitled'
  ).slice(0, 200);

/** The last part of a path, short enough to keep. */
export const baseOf = (fileName: string): string =>
  (fileName.split(/[/\\]/).at(-1) || 'Untitled').slice(-500);
