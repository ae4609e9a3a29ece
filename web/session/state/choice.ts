import type { Point } from '@keen-ridge/core/geometry';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type ChannelId, channelAt, channelRef } from '@keen-ridge/core/staging';

export interface SelectedKey {
  readonly channel: ChannelId;
  readonly frame: number;
}

/** A plane whose speed is being measured, and the first sighting of it. */
export interface Measuring {
  readonly planeId: PlaneId;
  readonly first: { readonly frame: number; readonly at: Point } | null;
}

/** A stand-in figure on a plane, for judging sizes; nothing of it is kept. */
export interface StandInFigure {
  readonly planeId: PlaneId;
  /** Where its feet stand at home, output px from the middle of the frame. */
  readonly feet: Point;
}

/** What of the scene is chosen, shown alone or looked at closer. */
export interface ChoiceState {
  readonly selection: readonly PlaneId[];
  /** Planes that are shown alone in the picture; nothing of it is kept or handed off. */
  readonly solo: readonly PlaneId[];
  /** The moving plane whose neighbouring exposures are laid over the picture. */
  readonly onion: PlaneId | null;
  readonly selectedKeys: readonly SelectedKey[];
  /** Channels that alone move in the picture; none means all. */
  readonly soloChannels: readonly ChannelId[];
  readonly measuring: Measuring | null;
  readonly figure: StandInFigure | null;
  /** Clicks in the picture put down pins. */
  readonly pinning: boolean;
}

export const NOTHING_CHOSEN: ChoiceState = {
  selection: [],
  solo: [],
  onion: null,
  selectedKeys: [],
  soloChannels: [],
  measuring: null,
  figure: null,
  pinning: false,
};

/** Those that are still there; the same list where all are, so that nothing is drawn anew for it. */
const kept = <T>(list: readonly T[], there: (item: T) => boolean): readonly T[] =>
  list.every(there) ? list : list.filter(there);

/** The choice without what a scene no longer has, whatever took it away. */
export function settled(choice: ChoiceState, scene: Scene): ChoiceState {
  const there = (id: PlaneId | null | undefined) => id != null && planeOf(scene, id) !== undefined;
  const { selection, solo, onion, selectedKeys, soloChannels, figure, measuring, pinning } = choice;
  const onPlane = (channel: ChannelId) => {
    const ref = channelRef(channel);
    return ref.on === 'camera' || there(ref.plane);
  };
  return {
    selection: kept(selection, there),
    solo: kept(solo, there),
    onion: there(onion) ? onion : null,
    selectedKeys: kept(
      selectedKeys,
      ({ channel, frame }) =>
        channelAt(scene, channelRef(channel))?.keys.some((key) => key.frame === frame) === true,
    ),
    soloChannels: kept(soloChannels, onPlane),
    figure: there(figure?.planeId) ? figure : null,
    measuring: there(measuring?.planeId) ? measuring : null,
    pinning,
  };
}
