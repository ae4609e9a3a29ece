import type { HandoffRequest } from '@keen-ridge/core/contract';
import {
  countFault,
  HANDOFF_FORMATS,
  listWords,
  namesFault,
  samplesFault,
  sizeFault,
  sizeWords,
} from '@keen-ridge/core/export';
import type { Scene } from '@keen-ridge/core/scene';
import { itemsOf, type PicturesAsked } from '../farm/planned-pictures.ts';
import { ProblemError } from '../faults/problems.ts';
import { filmToolPresent } from '../film/film-writer.ts';
import { scaledSize } from '../pictures/frame-renderer.ts';
import { wantsSound } from './write-output.ts';

/**
 * What is handed off of a shot, as it stands now, with the count of its pictures. Throws a ProblemError where it cannot be: past the end, too large, too
 * much, names that clash, or no tool for films.
 */
export function handoffToMake(
  shot: { readonly scene: Scene; readonly name: string },
  wanted: HandoffRequest,
): PicturesAsked & { readonly total: number } {
  // A shot without a sound gives a film without one, and its name says nothing of it.
  const request = { ...wanted, sound: wantsSound({ scene: shot.scene, request: wanted }) };
  const format = HANDOFF_FORMATS[request.kind];
  if (request.lastFrame > shot.scene.lengthFrames) {
    throw new ProblemError(
      'bad-request',
      `The shot ends at frame ${shot.scene.lengthFrames}; frame ${request.lastFrame} was asked for.`,
    );
  }
  const { widthPx, heightPx } = scaledSize(shot.scene, request.scale);
  const tooLarge = sizeFault(request.kind, widthPx, heightPx);
  if (tooLarge) throw new ProblemError('bad-request', sizeWords(request.kind, widthPx, heightPx, tooLarge));
  if (format.made === 'film' && !filmToolPresent()) {
    throw new ProblemError(
      'film-tool-missing',
      'Films need ffmpeg: sudo apt-get install ffmpeg, then try again.',
    );
  }
  const asked = { scene: shot.scene, shotName: shot.name, request };
  const tooMuch = request.pass === 'depth' ? samplesFault(shot.scene) : null;
  if (tooMuch) throw new ProblemError('bad-request', tooMuch);
  const tooMany = countFault(shot.scene, request);
  if (tooMany) throw new ProblemError('bad-request', listWords(tooMany));
  const items = itemsOf(asked);
  const clash = format.made === 'frames' ? namesFault(items) : null;
  if (clash) throw new ProblemError('bad-request', listWords(clash));
  return { ...asked, total: items.length };
}
