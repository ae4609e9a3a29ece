import type { Scene } from '@keen-ridge/core/scene';
import { channelAt, channelRef } from '@keen-ridge/core/staging';
import { type RefObject, useState } from 'react';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession } from '../../session/use-session.ts';
import { useDrag } from '../../ui/pointer/drag.ts';
import type { timeScale } from '../time-scale.ts';
import type { PlacedRow } from './strip-rows.ts';

interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A drag over the lanes chooses the keys in it; with Shift or Ctrl as well. A click on nothing chooses nothing. */
export function useBoxSelect(
  rows: readonly PlacedRow[],
  scale: ReturnType<typeof timeScale>,
  lanes: RefObject<HTMLElement | null>,
) {
  const session = useSession();
  const [rect, setRect] = useState<Rect | null>(null);
  const drag = useDrag<HTMLDivElement>((down) => {
    const area = lanes.current;
    if (!area) return null;
    const bounds = area.getBoundingClientRect();
    const from = { x: down.clientX - bounds.left, y: down.clientY - bounds.top };
    const before = session.state.selectedKeys;
    const kept = down.shiftKey || down.ctrlKey || down.metaKey ? before : [];
    session.selectKeys(kept);
    return {
      move: ({ clientX, clientY }) => {
        const to = { x: clientX - bounds.left, y: clientY - bounds.top };
        const box = {
          x: Math.min(from.x, to.x),
          y: Math.min(from.y, to.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        };
        setRect(box);
        const inside = keysIn(session.state.scene, rows, scale, box);
        const known = new Set(inside.map(({ channel, frame }) => `${channel}@${frame}`));
        session.selectKeys([
          ...kept.filter(({ channel, frame }) => !known.has(`${channel}@${frame}`)),
          ...inside,
        ]);
      },
      keep: () => setRect(null),
      drop: () => {
        setRect(null);
        session.selectKeys(before);
      },
    };
  });
  return { rect, ...drag };
}

/** Keys that lie in a box over the lanes. */
const keysIn = (
  scene: Scene,
  rows: readonly PlacedRow[],
  scale: ReturnType<typeof timeScale>,
  box: Rect,
): SelectedKey[] =>
  rows.flatMap(({ row, top, height }) => {
    if (row.kind !== 'channel' || top + height <= box.y || top >= box.y + box.height) return [];
    const keys = channelAt(scene, channelRef(row.id))?.keys ?? [];
    return keys
      .filter(({ frame }) => scale.xAt(frame) >= box.x && scale.xAt(frame) <= box.x + box.width)
      .map(({ frame }) => ({ channel: row.id, frame }));
  });
