import type { Point } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { type ChannelRef, channelAt, keyedChannels, shownValueAt } from '../../staging/index.ts';
import { type Ease, easePresetOf, easeProgress } from '../../timing/index.ts';
import { FIELDS } from './chart.ts';
import { signed } from './signed.ts';

const NAMES = {
  panX: 'pan E–W',
  panY: 'pan N–S',
  truck: 'truck in',
  zoom: 'zoom',
  roll: 'roll',
  focus: 'focus',
  iris: 'iris',
} as const;
type MoveName = keyof typeof NAMES;
const isMove = (name: string): name is MoveName => Object.hasOwn(NAMES, name);

/** One span between two keys of the camera, as the camera department reads it. */
export interface MoveRow {
  readonly name: string;
  readonly frames: string;
  readonly from: string;
  readonly to: string;
  /** In the channel's own unit, and in fields where it is a pan. */
  readonly change: string;
  readonly fields: string;
  readonly ease: string;
  /** The ease's curve, from (0, 0) to (1, 1), y up. */
  readonly curve: readonly Point[];
}

const UNITS: Readonly<Record<MoveName, readonly [decimals: number, unit: string]>> = {
  panX: [1, 'px'],
  panY: [1, 'px'],
  truck: [1, 'px'],
  zoom: [3, '×'],
  roll: [2, '°'],
  focus: [0, 'px'],
  iris: [1, 'px'],
};

/** Every span of the camera that changes something, by channel. A track stands for both pans and the truck. */
export function moveRows(scene: Scene): MoveRow[] {
  return keyedChannels(scene).flatMap((ref): MoveRow[] => {
    if (ref.on !== 'camera') return [];
    const names =
      ref.name === 'track' ? (['panX', 'panY', 'truck'] as const) : isMove(ref.name) ? [ref.name] : [];
    return names.flatMap((name) => rowsOf(scene, ref, name));
  });
}

function rowsOf(scene: Scene, ref: ChannelRef, name: MoveName): MoveRow[] {
  const keys = channelAt(scene, ref)?.keys ?? [];
  const [decimals, unit] = UNITS[name];
  const said = (value: number) => `${signed(value, decimals)} ${unit}`;
  const at = (frame: number) => shownValueAt(scene, { on: 'camera', name }, frame);
  return keys.slice(1).flatMap((key, i): MoveRow[] => {
    const first = keys[i]!;
    const [from, to] = [at(first.frame), at(key.frame)];
    if (from === to) return [];
    const isPan = name === 'panX' || name === 'panY';
    const change = name === 'zoom' ? `× ${signed(to / from, 3)}` : said(to - from);
    return [
      {
        name: NAMES[name],
        frames: `${first.frame}–${key.frame}`,
        from: said(from),
        to: said(to),
        change,
        fields: isPan ? `${signed(((to - from) / scene.frame.widthPx) * FIELDS, 2)} f` : '',
        ease: easeWords(first.ease),
        curve: Array.from({ length: 17 }, (_, k) => ({ x: k / 16, y: easeProgress(first.ease, k / 16) })),
      },
    ];
  });
}

const PRESETS = {
  linear: 'even',
  hold: 'hold',
  in: 'ease in',
  out: 'ease out',
  'in-out': 'ease in and out',
} as const;

function easeWords(ease: Ease): string {
  const preset = easePresetOf(ease);
  if (preset) return PRESETS[preset];
  return ease.kind === 'bezier'
    ? [ease.x1, ease.y1, ease.x2, ease.y2].map((value) => signed(value, 2)).join(', ')
    : ease.kind;
}
