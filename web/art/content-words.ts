import type { Content } from '@keen-ridge/core/scene';
import { artWords as say } from '../words/art.ts';

/** What a plane holds, in a few words. */
export function contentWords(content: Content): string {
  switch (content.kind) {
    case 'still':
      return content.made === null ? 'art' : MADE_WORDS[content.made.kind];
    case 'moving':
      return `moving, ${content.exposures.length}`;
    case 'card':
      return content.paint.kind === 'solid' ? 'card' : `${content.paint.kind} card`;
    case 'shapes':
      return content.shapes.length === 1 ? '1 shape' : `${content.shapes.length} shapes`;
  }
}

const MADE_WORDS = { cut: say.cut, recoloured: say.recoloured, 'seam-closed': say.seamClosed } as const;
