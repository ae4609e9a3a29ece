import { createHash } from 'node:crypto';
import { groundOf, type HandoffRequest } from '@keen-ridge/core/contract';
import { frameContent, type HandoffItem, handoffItems, passOf, planAsked } from '@keen-ridge/core/export';
import type { Scene } from '@keen-ridge/core/scene';
import { type FramePlan, framePlan, pinsOnFrame } from '@keen-ridge/core/staging/frame';
import { wordsOf } from '../film/words-in-picture.ts';
import { type PictureAsked, scaledSize } from '../pictures/frame-renderer.ts';
import { engineName } from './engine.ts';

/** A hand-off as far as its pictures go. */
export interface PicturesAsked {
  readonly scene: Scene;
  readonly shotName: string;
  readonly request: HandoffRequest;
}

/** How one picture of a hand-off is to look. */
export function pictureOf({ scene, shotName, request }: PicturesAsked, item: HandoffItem): PictureAsked {
  const words = request.burnIn ? wordsOf(shotName, request.take, item.number) : '';
  const format = request.depth === 16 ? 'straight16' : 'straight8';
  const pass = passOf(scene, request.pass, item);
  const plain = {
    ...scaledSize(scene, request.scale),
    format,
    ground: groundOf(request),
    words,
    pass,
  } as const;
  return request.pins ? { ...plain, marks: marksOf(scene, item.frame) } : plain;
}

const marksOf = (scene: Scene, frame: number) =>
  pinsOnFrame(scene, framePlan(scene, frame)).map(({ pin, at }) => ({
    xPx: at.x,
    yPx: at.y,
    name: pin.name,
  }));

export const planOfItem = ({ scene, request }: PicturesAsked, item: HandoffItem): FramePlan =>
  planAsked(scene, request, item.frame, item.plane);

export const itemsOf = ({ scene, shotName, request }: PicturesAsked): HandoffItem[] =>
  handoffItems(scene, shotName, request);

export async function keyOf(asked: PicturesAsked, item: HandoffItem): Promise<string> {
  const content = frameContent(planOfItem(asked, item), {
    ...pictureOf(asked, item),
    program: await engineName(),
  });
  return createHash('sha256').update(content).digest('hex');
}

const YIELD_EVERY = 16;

/** The key of every picture, in order; lets others run in between. Rejects when `signal` aborts. */
export async function keysOf(
  asked: PicturesAsked,
  items: readonly HandoffItem[],
  signal: AbortSignal,
): Promise<string[]> {
  const keys: string[] = [];
  for (const item of items) {
    if (keys.length % YIELD_EVERY === 0) await new Promise((resolve) => setImmediate(resolve));
    signal.throwIfAborted();
    keys.push(await keyOf(asked, item));
  }
  return keys;
}
