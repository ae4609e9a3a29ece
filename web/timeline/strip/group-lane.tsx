import type { Scene } from '@keen-ridge/core/scene';
import { channelAt, channelRef as refOf } from '@keen-ridge/core/staging';
import { memo, type PointerEvent } from 'react';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession } from '../../session/use-session.ts';
import { ROVING } from '../../ui/pointer/roving.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { grabKeys } from '../key-drag.ts';
import { type Grasp, graspsOf, type TimeScale } from '../time-scale.ts';
import type { StripRow } from './strip-rows.ts';
import { GROUP_HEIGHT } from './strip-sizes.ts';

/** All keys of a move on one row: each stands for those of every channel on its frame. */
export const GroupLane = memo(function GroupLane({
  row,
  scale,
  width,
  selected,
}: {
  row: Extract<StripRow, { kind: 'group' }>;
  scale: TimeScale;
  width: number;
  /** Of all keys. */
  selected: readonly SelectedKey[];
}) {
  const session = useSession();
  const channels = new Set<string>(row.channels);
  const chosen = new Set(selected.filter((key) => channels.has(key.channel)).map((key) => key.frame));
  const keysAt = (frame: number): SelectedKey[] =>
    row.channels.flatMap((channel) => {
      const there = session.state.scene;
      return framesOfChannel(there, channel).has(frame) ? [{ channel, frame }] : [];
    });
  const frames = row.frames.filter((frame) => frame >= scale.first && frame <= scale.last);
  const grasps = graspsOf(frames, scale.pxPerFrame);
  return (
    <svg width={width} height={GROUP_HEIGHT} className="block border-b border-rule-light bg-panel">
      <title>{say.wholeMoveOfName(row.name)}</title>
      {frames.map((frame, i) => (
        <GroupKey
          key={frame}
          frame={frame}
          name={row.name}
          x={scale.xAt(frame)}
          grasp={grasps[i]!}
          chosen={chosen.has(frame)}
          onGrab={(event) => grabKeys(session, event, keysAt(frame), scale.pxPerFrame)}
          keysHere={() => keysAt(frame)}
        />
      ))}
    </svg>
  );
});

const framesOfChannel = (scene: Scene, id: SelectedKey['channel']): ReadonlySet<number> =>
  new Set(channelAt(scene, refOf(id))?.keys.map((key) => key.frame));

function GroupKey({
  frame,
  name,
  x,
  grasp,
  chosen,
  onGrab,
  keysHere,
}: {
  frame: number;
  name: string;
  x: number;
  grasp: Grasp;
  chosen: boolean;
  onGrab: (event: PointerEvent<SVGGElement>) => void;
  keysHere: () => SelectedKey[];
}) {
  const session = useSession();
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      {...ROVING}
      aria-pressed={chosen}
      aria-label={say.allKeysOfNameAt(name, frame)}
      className="cursor-ew-resize"
      onPointerDown={onGrab}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        session.selectKeys(keysHere());
        session.goTo(frame);
      }}
    >
      <rect
        x={x - grasp.left}
        y={0}
        width={grasp.left + grasp.right}
        height={GROUP_HEIGHT}
        fill="transparent"
      />
      <rect
        x={x - 2}
        y={8}
        width={4}
        height={GROUP_HEIGHT - 16}
        rx={2}
        fill={chosen ? 'var(--color-signal)' : 'var(--color-ink-3)'}
      />
    </g>
  );
}
