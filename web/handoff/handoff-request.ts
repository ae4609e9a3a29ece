import type { HandoffRequest } from '@keen-ridge/core/contract';
import {
  checkPattern,
  countFault,
  HANDOFF_FORMATS,
  type HandoffItem,
  handoffItems,
  listWords,
  namesFault,
  type PatternFault,
  sizeFault,
  sizeWords,
} from '@keen-ridge/core/export';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { handoffWords as say } from '../words/handoff.ts';

/** What would come of a request, and the first thing that stands in its way. */
export interface HandoffOutlook {
  readonly size: { readonly widthPx: number; readonly heightPx: number };
  readonly items: readonly HandoffItem[];
  readonly patternFault: PatternFault | null;
  readonly fault: string | null;
}

export function handoffOutlook(request: HandoffRequest, scene: Scene, shotName: string): HandoffOutlook {
  const { kind, planes, names, scale } = request;
  const format = HANDOFF_FORMATS[kind];
  const size = {
    widthPx: Math.max(1, Math.round(scene.frame.widthPx * scale)),
    heightPx: Math.max(1, Math.round(scene.frame.heightPx * scale)),
  };
  const checked = checkPattern(names.pattern, planes === 'each');
  const tooMany = countFault(scene, request);
  const items = checked.ok && !tooMany ? handoffItems(scene, shotName, request) : [];
  const fault = (): string | null => {
    if (planesOf(scene).length === 0) return say.nothingOnTheStage;
    if (!checked.ok) return say.patternDoesNotHold;
    const tooLarge = sizeFault(kind, size.widthPx, size.heightPx);
    if (tooLarge) return sizeWords(kind, size.widthPx, size.heightPx, tooLarge);
    const listed = tooMany ?? (format.made === 'frames' ? namesFault(items) : null);
    if (listed) return listWords(listed);
    return items.length > format.mostFrames ? say.holdsFramesAtMost(format.mostFrames) : null;
  };
  return { size, items, patternFault: checked.ok ? null : checked.error, fault: fault() };
}
