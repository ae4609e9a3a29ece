import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type ChannelRef, channelAt } from '@keen-ridge/core/staging';
import { pacedChannelAt } from '@keen-ridge/core/staging/sample';
import { type Channel, type Key, speedsAtKey } from '@keen-ridge/core/timing';
import { memo } from 'react';
import { channelTitle } from '../../edits/channel-words.ts';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession } from '../../session/use-session.ts';
import { ROVING } from '../../ui/pointer/roving.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { toggleKey } from '../key-actions.ts';
import { keyMark } from '../key-commands.ts';
import { grabKeys, useKeyKeyboard } from '../key-drag.ts';
import { type Grasp, graspsOf, type TimeScale } from '../time-scale.ts';
import { Beyonds, FLOOR, interpolationIn, Spans, SwayGhost } from './spans.tsx';
import type { StripRow } from './strip-rows.ts';
import { ROW_HEIGHT } from './strip-sizes.ts';

interface LaneProps {
  row: Extract<StripRow, { kind: 'channel' }>;
  scene: Scene;
  scale: TimeScale;
  width: number;
  /** Frames of its chosen keys. */
  selected: ReadonlySet<number>;
}

/** One channel over time: keys are dragged, a double click sets one, a click on a span chooses its ease. */
export const Lane = memo(
  function Lane({ row, scene, scale, width, selected }: LaneProps) {
    const session = useSession();
    const { ref, id } = row;
    const channel = pacedChannelAt(scene, ref);
    if (!channel) return null;
    const title = channelTitle(scene, ref);
    const shown = channel.keys.filter((key) => key.frame >= scale.first && key.frame <= scale.last);
    const grasps = graspsOf(
      shown.map(({ frame }) => frame),
      scale.pxPerFrame,
    );
    const addKey = (event: { clientX: number; currentTarget: Element }) => {
      const frame = scale.frameAt(event.clientX - event.currentTarget.getBoundingClientRect().left);
      const { scene: kept } = session.state;
      if (frame < 1 || frame > kept.lengthFrames) return;
      if (channelAt(kept, ref)?.keys.some((key) => key.frame === frame)) return;
      toggleKey(session, ref, frame);
      session.selectKeys([{ channel: id, frame }]);
    };
    return (
      <svg
        width={width}
        height={ROW_HEIGHT}
        className="block border-b border-rule-light"
        onDoubleClick={addKey}
      >
        <title>{say.titleDoubleClickToSet(title)}</title>
        <Beyonds channel={channel} scale={scale} row={row} scene={scene} />
        <Spans channel={channel} scale={scale} selected={selected} row={row} scene={scene} />
        <line x1={0} x2={width} y1={FLOOR} y2={FLOOR} stroke="var(--color-rule-light)" pointerEvents="none" />
        <SwayGhost name={ref.name} scene={scene} scale={scale} />
        <Followed keys={shown} scene={scene} scale={scale} />
        {shown.map((key, i) => (
          <KeyPill
            grasp={grasps[i]!}
            key={key.frame}
            channel={id}
            frame={key.frame}
            title={title}
            jumps={jumpsAt(channel, key, ref, scene)}
            scale={scale}
            selected={selected.has(key.frame)}
          />
        ))}
      </svg>
    );
  },
  (was, is) =>
    was.scale === is.scale &&
    was.width === is.width &&
    was.row.id === is.row.id &&
    was.selected === is.selected &&
    was.scene.move === is.scene.move &&
    (is.row.ref.name !== 'focus' || was.scene.planes === is.scene.planes) &&
    was.scene.lengthFrames === is.scene.lengthFrames &&
    pacedChannelAt(was.scene, was.row.ref) === pacedChannelAt(is.scene, is.row.ref) &&
    channelTitle(was.scene, was.row.ref) === channelTitle(is.scene, is.row.ref),
);

/** Room for a name between two keys, px: what lies beside it, about what a letter takes, and the fewest worth showing. */
const NAME_ROOM = { beside: 12, perLetter: 5.8, fewest: 4 } as const;

/** The names of the planes that keys follow, beside them. */
function Followed({ keys, scene, scale }: { keys: readonly Key[]; scene: Scene; scale: TimeScale }) {
  return keys.map(({ frame, follows }, i) => {
    const plane = planeOf(scene, follows);
    if (!plane) return null;
    const next = keys[i + 1];
    const room = next ? (next.frame - frame) * scale.pxPerFrame : Number.POSITIVE_INFINITY;
    const most = Math.floor((room - NAME_ROOM.beside) / NAME_ROOM.perLetter);
    if (most < NAME_ROOM.fewest) return null;
    const name = plane.name.length > most ? `${plane.name.slice(0, most - 1)}…` : plane.name;
    return (
      <text
        key={frame}
        x={scale.xAt(frame) + 6}
        y={ROW_HEIGHT / 2 + 4}
        fontSize={11}
        fill="var(--color-ink-2)"
        pointerEvents="none"
        className="narrow"
      >
        {name}
      </text>
    );
  });
}

function jumpsAt(channel: Channel, key: Key, ref: ChannelRef, scene: Scene): boolean {
  const speeds = speedsAtKey(channel, channel.keys.indexOf(key), interpolationIn(scene, ref));
  return speeds?.jumps === true && (Math.abs(speeds.before) > 1e-9 || Math.abs(speeds.after) > 1e-9);
}

interface KeyPillProps {
  channel: SelectedKey['channel'];
  frame: number;
  title: string;
  /** The speed jumps here. */
  jumps: boolean;
  scale: TimeScale;
  selected: boolean;
  grasp: Grasp;
}

function KeyPill({ channel, frame, title, jumps, scale, selected, grasp }: KeyPillProps) {
  const session = useSession();
  const onKeyDown = useKeyKeyboard({ channel, frame });
  const x = scale.xAt(frame);
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      {...ROVING}
      aria-pressed={selected}
      aria-label={say.titleKeyAtFrameFrame(title, frame)}
      data-key={keyMark({ channel, frame })}
      className="cursor-ew-resize"
      onPointerDown={(event) => grabKeys(session, event, [{ channel, frame }], scale.pxPerFrame)}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKeyDown}
    >
      <title>{jumps ? say.frameTheSpeedJumpsHere(frame) : `${frame}`}</title>
      <rect
        x={x - grasp.left}
        y={0}
        width={grasp.left + grasp.right}
        height={ROW_HEIGHT}
        fill="transparent"
      />
      <rect
        x={x - 2.5}
        y={5}
        width={5}
        height={ROW_HEIGHT - 10}
        rx={2.5}
        fill={selected ? 'var(--color-signal)' : 'var(--color-ink)'}
      />
      {jumps && (
        <path
          d={`M${x - 5},2h10l-5,5z`}
          fill={selected ? 'var(--color-signal)' : 'var(--color-ink)'}
          data-testid="jump"
        />
      )}
    </g>
  );
}
