import type { Side } from '../../image/index.ts';
import type { PlaneId, Repeat, Scene } from '../../scene/index.ts';
import type { ChannelId } from '../../staging/index.ts';

/** What can be done against a finding, as an edit; what it changes, in numbers. */
export type Cure =
  | { readonly kind: 'size'; readonly percent: number; readonly scene: Scene }
  /** Longer along one axis, so that a side reaches so many output px further. */
  | { readonly kind: 'overlap'; readonly px: number; readonly onId: PlaneId; readonly scene: Scene }
  | { readonly kind: 'slide'; readonly px: number; readonly towards: Side; readonly scene: Scene }
  | { readonly kind: 'depth'; readonly bySpx: number; readonly scene: Scene }
  | { readonly kind: 'together'; readonly withId: PlaneId; readonly bySpx: number; readonly scene: Scene }
  | { readonly kind: 'mount'; readonly onId: PlaneId; readonly scene: Scene }
  | { readonly kind: 'longer'; readonly frames: number; readonly scene: Scene }
  /** The camera's channel ends at a value that it would have passed. */
  | { readonly kind: 'stop'; readonly channel: ChannelId; readonly value: number; readonly scene: Scene }
  /** The camera goes so much of its way in the same time. */
  | { readonly kind: 'shorter'; readonly percent: number; readonly scene: Scene }
  | { readonly kind: 'repeat'; readonly repeat: Repeat; readonly scene: Scene }
  | { readonly kind: 'smooth'; readonly scene: Scene }
  /** The channel comes to rest at the key and starts anew. */
  | { readonly kind: 'rest'; readonly scene: Scene }
  | { readonly kind: 'close'; readonly scene: Scene }
  | { readonly kind: 'fade'; readonly scene: Scene };
