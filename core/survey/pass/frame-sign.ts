import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import type { FramePlan } from '../../staging/frame/index.ts';

/** All that the rows of a frame follow from, besides how much paint arts have, which never changes. */
export interface FrameSign {
  readonly words: string;
  readonly numbers: Float64Array;
}

const NUMBERS_A_PLANE = 10;

export const sameSign = (p: FrameSign | undefined, q: FrameSign): boolean =>
  p !== undefined &&
  p.words === q.words &&
  p.numbers.length === q.numbers.length &&
  p.numbers.every((value, i) => value === q.numbers[i]);

/** Makes the signs of a scene's frames; signs of two scenes that are the same stand for the same rows. */
export class FrameSigns {
  private readonly scene: Scene;
  /** What cards and shapes are, by plane: the same text for the same content, whichever copy of it. */
  private readonly contents = new Map<PlaneId, string>();
  private last = '';

  constructor(scene: Scene) {
    this.scene = scene;
  }

  of({ planes, widthPx, heightPx }: FramePlan): FrameSign {
    const drawn = planes.filter(({ state }) => state !== 'hidden');
    const numbers = new Float64Array(drawn.length * NUMBERS_A_PLANE);
    let words = `${widthPx} ${heightPx}`;
    drawn.forEach((plan, i) => {
      const {
        planeId,
        state,
        shown,
        repeat,
        mode,
        opacity,
        blurPx,
        defocusPx,
        softEdgePx,
        artToFrame: m,
      } = plan;
      words += `|${planeId} ${state} ${repeat} ${mode} ${shown.kind === 'image' ? shown.art.id : this.contentOf(planeId)}`;
      numbers.set([opacity, blurPx, defocusPx, softEdgePx], i * NUMBERS_A_PLANE);
      if (m) numbers.set([m.a, m.b, m.c, m.d, m.e, m.f], i * NUMBERS_A_PLANE + 4);
    });
    // Most frames are alike in words: one text serves them all.
    if (words !== this.last) this.last = words;
    return { words: this.last, numbers };
  }

  private contentOf(id: PlaneId): string {
    const known = this.contents.get(id);
    if (known !== undefined) return known;
    const text = JSON.stringify(planeOf(this.scene, id)?.content ?? null);
    this.contents.set(id, text);
    return text;
  }
}
