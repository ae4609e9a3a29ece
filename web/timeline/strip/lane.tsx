import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type ChannelRef, channelAt, interpolationOf, channelRef as refOf } from '@keen-ridge/core/staging';
import {
  type Channel,
  channelValueAt,
  type Interpolation,
  type Key,
  speedProfile,
  speedsAtKey,
} from '@keen-ridge/core/timing';
import { SWAY_AXES, swayAt } from '@keen-ridge/core/timing/moves';
import { memo, type PointerEvent } from 'react';
import { channelTitle } from '../../edits/channel-words.ts';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession } from '../../session/use-session.ts';
import { ROVING } from '../../ui/pointer/roving.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { toggleKey } from '../key-actions.ts';
import { keyMark } from '../key-commands.ts';
import { grabKeys, useKeyKeyboard } from '../key-drag.ts';
import { type Grasp, graspsOf, type TimeScale } from '../time-scale.ts';
import type { StripRow } from './strip-rows.ts';
import { GROUP_HEIGHT, ROW_HEIGHT } from './strip-sizes.ts';

const FLOOR = ROW_HEIGHT - 5;
const CEILING = 6;
/** Px of a span for one sample of its speed. */
const PX_PER_SAMPLE = 5;
const MOST_SAMPLES = 40;
/** Keys closer than this, on average, are drawn without their spans' profiles. */
const CROWDED_PX = 5;

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
    const channel = channelAt(scene, ref);
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
    channelAt(was.scene, was.row.ref) === channelAt(is.scene, is.row.ref) &&
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

const interpolationIn = (scene: Scene, ref: ChannelRef): Interpolation =>
  ref.name === 'track' ? 'linear' : interpolationOf(scene, ref.name);

function jumpsAt(channel: Channel, key: Key, ref: ChannelRef, scene: Scene): boolean {
  const speeds = speedsAtKey(channel, channel.keys.indexOf(key), interpolationIn(scene, ref));
  return speeds?.jumps === true && (Math.abs(speeds.before) > 1e-9 || Math.abs(speeds.after) > 1e-9);
}

interface SpansProps {
  channel: Channel;
  scale: TimeScale;
  selected: ReadonlySet<number>;
  row: LaneProps['row'];
  scene: Scene;
}

/** Each span filled with its own speed; all of a channel on one scale, so that they can be compared. */
function Spans({ channel, scale, selected, row, scene }: SpansProps) {
  const session = useSession();
  const spans = channel.keys.slice(0, -1).flatMap((from, i) => {
    const to = channel.keys[i + 1] as Key;
    if (to.frame < scale.first || from.frame > scale.last) return [];
    return [{ from, to, index: i, wide: (to.frame - from.frame) * scale.pxPerFrame }];
  });
  const interpolation = interpolationIn(scene, row.ref);
  const crowded =
    spans.length > 60 && spans.reduce((sum, span) => sum + span.wide, 0) / spans.length < CROWDED_PX;
  const profiles = spans.map(({ index, wide }) =>
    crowded
      ? []
      : speedProfile(
          channel,
          index,
          Math.max(2, Math.min(MOST_SAMPLES, Math.round(wide / PX_PER_SAMPLE))),
          interpolation,
        ).map(Math.abs),
  );
  const fastest = profiles.reduce((most, profile) => Math.max(most, ...profile), 1e-12);
  const yOf = (speed: number) => FLOOR - (speed / fastest) * (FLOOR - CEILING);
  return spans.map(({ from, to, wide }, i) => {
    const profile = profiles[i] as number[];
    const [x0, x1] = [scale.xAt(from.frame), scale.xAt(to.frame)];
    const still = profile.every((speed) => speed < 1e-9);
    const points = profile.map((speed, k) => `${x0 + ((k + 0.5) / profile.length) * wide},${yOf(speed)}`);
    return (
      <g
        key={from.frame}
        className="cursor-pointer"
        data-testid={`span-${row.id}-${from.frame}`}
        onPointerDown={(event: PointerEvent) => {
          event.stopPropagation();
          const add = event.shiftKey || event.ctrlKey || event.metaKey;
          const here: SelectedKey = { channel: row.id, frame: from.frame };
          session.selectKeys(add ? [...session.state.selectedKeys, here] : [here]);
        }}
      >
        <rect
          x={x0}
          y={2}
          width={Math.max(0, wide)}
          height={ROW_HEIGHT - 4}
          fill={selected.has(from.frame) ? 'var(--color-select-wash)' : 'transparent'}
        />
        {still ? (
          <rect x={x0} y={FLOOR - 6} width={Math.max(0, wide)} height={6} fill="var(--color-rule-light)" />
        ) : (
          <>
            <polygon
              points={`${x0},${FLOOR} ${x0},${yOf(profile[0] ?? 0)} ${points.join(' ')} ${x1},${yOf(profile.at(-1) ?? 0)} ${x1},${FLOOR}`}
              fill="var(--color-signal)"
              fillOpacity={channel.muted ? 0.1 : 0.28}
            />
            <line x1={x0} x2={x1} y1={FLOOR} y2={FLOOR} stroke="var(--color-signal)" />
          </>
        )}
      </g>
    );
  });
}

/** Px of the strip for one sample of what goes on beyond the keys. */
const PX_PER_BEYOND = 3;

/** How fast the channel goes on beyond its keys, pale: nothing of it can be taken hold of. */
function Beyonds({ channel, scale, row, scene }: Omit<SpansProps, 'selected'>) {
  const [first, last] = [channel.keys[0], channel.keys.at(-1)];
  if (!first || !last || channel.muted || (!channel.before && !channel.after)) return null;
  const interpolation = interpolationIn(scene, row.ref);
  const step = Math.max(1, PX_PER_BEYOND / scale.pxPerFrame);
  const speedAt = (frame: number) =>
    Math.abs(
      channelValueAt(channel, frame + step / 2, interpolation) -
        channelValueAt(channel, frame - step / 2, interpolation),
    );
  const part = (from: number, to: number) => {
    const count = Math.max(2, Math.min(600, Math.round((to - from) / step)));
    return Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
  };
  const sides = [
    ...(channel.before ? [part(Math.max(1, scale.first), Math.min(first.frame, scale.last))] : []),
    ...(channel.after
      ? [part(Math.max(last.frame, scale.first), Math.min(scene.lengthFrames, scale.last))]
      : []),
  ].filter((frames) => (frames.at(-1) ?? 0) > (frames[0] ?? 0));
  const fastest = Math.max(1e-12, ...part(first.frame, last.frame).map(speedAt));
  return sides.map((frames) => {
    const points = frames.map(
      (frame) => `${scale.xAt(frame)},${FLOOR - Math.min(1, speedAt(frame) / fastest) * (FLOOR - CEILING)}`,
    );
    return (
      <polygon
        key={frames[0]}
        points={`${scale.xAt(frames[0]!)},${FLOOR} ${points.join(' ')} ${scale.xAt(frames.at(-1)!)},${FLOOR}`}
        fill="var(--color-signal)"
        fillOpacity={0.1}
        pointerEvents="none"
        data-testid="beyond"
      />
    );
  });
}

/** Px of the strip for one sample of the sway. */
const PX_PER_SWAY = 4;

/** What the sway lays over a channel: a thin line about its middle, as high as the row at its amplitude. */
function SwayGhost({ name, scene, scale }: { name: ChannelRef['name']; scene: Scene; scale: TimeScale }) {
  const { sway } = scene.move;
  const axis = SWAY_AXES.find((one) => one === name);
  if (!sway?.on || !axis || sway.amplitude[axis] === 0) return null;
  const [first, last] = [Math.max(1, scale.first), Math.min(scene.lengthFrames, scale.last)];
  const count = Math.max(2, Math.round(((last - first) * scale.pxPerFrame) / PX_PER_SWAY));
  const middle = ROW_HEIGHT / 2 - 1;
  const points = Array.from({ length: count + 1 }, (_, i) => {
    const frame = first + ((last - first) * i) / count;
    const drift = swayAt(sway, axis, frame, scene.lengthFrames, scene.rate) / sway.amplitude[axis];
    return `${scale.xAt(frame)},${middle - drift * (middle - 3)}`;
  });
  return (
    <polyline
      points={points.join(' ')}
      fill="none"
      stroke="var(--color-select)"
      strokeOpacity={0.7}
      pointerEvents="none"
      data-testid="sway-ghost"
    />
  );
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
