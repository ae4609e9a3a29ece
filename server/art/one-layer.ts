import type { ImportedLayer, ImportedPainting } from '@keen-ridge/core/art/landing';
import type { KeptImage } from './keep-image.ts';
import { baseOf, stemOf } from './read-options.ts';

/** What of a painting of one layer is not as it usually is. */
type Unusual = Partial<
  Pick<ImportedLayer, 'frames' | 'rate'> & Pick<ImportedPainting, 'notKept' | 'alphaUnsure' | 'svgScale'>
>;

/** A file that is one picture, or pictures in time, as a painting of one layer of its name. */
export function paintingOfOne(
  fileName: string,
  { art, likeness }: KeptImage,
  { frames = null, rate, notKept = [], alphaUnsure = false, svgScale = null }: Unusual,
): ImportedPainting {
  const layer: ImportedLayer = {
    kind: 'layer',
    key: '0',
    name: stemOf(fileName),
    xPx: 0,
    yPx: 0,
    opacity: 1,
    hidden: false,
    art,
    likeness: [...likeness],
    frames,
    ...(rate ? { rate } : {}),
  };
  const { widthPx, heightPx } = art;
  return { file: baseOf(fileName), widthPx, heightPx, nodes: [layer], notKept, alphaUnsure, svgScale };
}
