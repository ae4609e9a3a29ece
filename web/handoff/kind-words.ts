import type { HandoffKind } from '@keen-ridge/core/export';
import { handoffWords as say } from '../words/handoff.ts';

export const KIND_WORDS: Readonly<Record<HandoffKind, { word: string; means: string }>> = {
  png: { word: say.pngFrames, means: say.numbered8Or16Bit },
  webm: { word: say.webmFilm, means: say.vp9WithAlphaIfWanted },
  'webm-av1': { word: say.av1Film, means: say.webmTheSmallestFile },
  mp4: { word: say.mp4Film, means: say.h264PlaysEverywhere },
  ffv1: { word: say.losslessFilm, means: say.ffv1InMatroskaBitFor },
  gif: { word: say.gif, means: say.coloursAndLoops },
  apng: { word: say.animatedPng, means: say.losslessLoops },
  'contact-sheet': { word: say.contactSheet, means: say.framesOnOnePage },
};
