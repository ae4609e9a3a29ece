import { isOnTrack } from '@keen-ridge/core/edits/keys';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import {
  CAMERA_CHANNELS,
  CAMERA_LOOKS,
  type ChannelId,
  type ChannelName,
  type ChannelRef,
  channelAt,
  channelId,
  LENS_CHANNELS,
  PLANE_CHANNELS,
} from '@keen-ridge/core/staging';
import { PLANE_LOOKS } from '@keen-ridge/core/staging/looks';
import { GROUP_HEIGHT, ROW_HEIGHT } from './strip-sizes.ts';

const LOOK_ROWS = [...LENS_CHANNELS, ...CAMERA_LOOKS] as const;
const isLight = (name: ChannelName): boolean => LOOK_ROWS.some((light) => light === name);

/** What the Look step shows of the camera before anything is keyed: the rest comes with its first key. */
const FIRST_LIGHTS: readonly ChannelName[] = ['focus', 'iris', 'brightness', 'glow'];
const isAlways = (name: ChannelName, of: RowsOf): boolean =>
  of === 'look' ? FIRST_LIGHTS.includes(name) : !isLight(name);

/** Which rows a step needs: all that move, or those of the looks alone. */
export type RowsOf = 'move' | 'look';

/** A row of the strip: a whole move (which folds its channels), or one channel. */
export type StripRow =
  | {
      readonly kind: 'group';
      /** `camera`, or the id of the plane. */
      readonly id: string;
      readonly name: string;
      readonly plane: PlaneId | null;
      readonly folded: boolean;
      readonly channels: readonly ChannelId[];
      /** Frames with a key of any of its channels. */
      readonly frames: readonly number[];
    }
  | { readonly kind: 'channel'; readonly id: ChannelId; readonly ref: ChannelRef };

/**
 * The rows of the strip: the camera's channels that the step is about, then those of every plane that has keys or pinned rows. Channels for
 * which a track stands give way to it.
 */
export function stripRows(
  scene: Scene,
  pinned: readonly string[],
  folded: readonly string[],
  of: RowsOf = 'move',
): StripRow[] {
  const pins = new Set(pinned);
  const rowsOf = (refs: readonly ChannelRef[], always: boolean): ChannelRef[] =>
    refs.filter((ref) => {
      const keyed = (channelAt(scene, ref)?.keys.length ?? 0) > 0;
      if (ref.name === 'track') return keyed;
      if (isOnTrack(scene, ref)) return false;
      const shown = (always && isAlways(ref.name, of)) || pins.has(channelId(ref));
      return keyed || (shown && channelAt(scene, ref) !== null);
    });
  const group = (
    id: string,
    name: string,
    plane: PlaneId | null,
    refs: readonly ChannelRef[],
  ): StripRow[] => {
    if (refs.length === 0) return [];
    const channels = refs.map(channelId);
    const keys = refs.flatMap((ref) => channelAt(scene, ref)?.keys.map((key) => key.frame) ?? []);
    const frames = [...new Set(keys)].sort((p, q) => p - q);
    const isFolded = folded.includes(id);
    const head = { kind: 'group', id, name, plane, folded: isFolded, channels, frames } as const;
    return [
      head,
      ...(isFolded ? [] : refs.map((ref): StripRow => ({ kind: 'channel', id: channelId(ref), ref }))),
    ];
  };
  const names = of === 'look' ? LOOK_ROWS : (['track', ...CAMERA_CHANNELS] as const);
  const camera = names.map((name): ChannelRef => ({ on: 'camera', name }));
  return [
    ...group('camera', 'Camera', null, rowsOf(camera, true)),
    ...planesOf(scene).flatMap(({ id, name }) => group(id, name, id, rowsOf(planeRefs(id, of), false))),
  ];
}

const PLANE_ROWS: readonly ChannelName[] = ['track', ...PLANE_CHANNELS];
const PLANE_LOOK_ROWS: readonly ChannelName[] = [...PLANE_LOOKS, 'opacity', 'blur'];
const planeRefs = (plane: PlaneId, of: RowsOf): ChannelRef[] =>
  (of === 'look' ? PLANE_LOOK_ROWS : PLANE_ROWS).map((name) => ({ on: 'plane', plane, name }) as ChannelRef);

/** A row with where it lies, CSS px from the top of all rows. */
export interface PlacedRow {
  readonly row: StripRow;
  readonly top: number;
  readonly height: number;
}

/** Rows one under the other. */
export function placedRows(rows: readonly StripRow[]): PlacedRow[] {
  let top = 0;
  return rows.map((row) => {
    const height = row.kind === 'group' ? GROUP_HEIGHT : ROW_HEIGHT;
    const here = { row, top, height };
    top += height;
    return here;
  });
}
