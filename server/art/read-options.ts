import { type ArtFault, layerName } from '@keen-ridge/core/art';
import type { ImportedPainting } from '@keen-ridge/core/art/landing';
import { cleanName, type Result } from '@keen-ridge/core/units';
import type { ImageSink } from './keep-image.ts';

export interface ReadOptions {
  readonly sink: ImageSink;
  readonly svgScale?: number;
  /** Told as images are done; `total` is known from the start of a document. */
  readonly onProgress?: (done: number, total: number, what: string) => void;
  /** Called before a drawing is rendered: nothing is told until it is done. */
  readonly onDrawing?: () => void;
  /** Files inside an archive are told from where they lie. */
  readonly within?: string;
}

export type ReadResult = Result<ImportedPainting[], ArtFault>;

/** `a/b/Sky.v2.png` → `Sky.v2`. */
export const stemOf = (fileName: string): string =>
  layerName(fileName.replace(/^.*[/\\]/s, '').replace(/\.[a-z0-9]{2,4}$/i, ''), 'Untitled');

const LONGEST_FILE_NAME = 500;
/** The last part of a path, short enough to keep. */
export const baseOf = (fileName: string): string =>
  cleanName(fileName.split(/[/\\]/).at(-1) ?? '', LONGEST_FILE_NAME) || 'Untitled';
