import type { Scene } from '@keen-ridge/core/scene';
import { type ChannelRef, interpolationOf } from '@keen-ridge/core/staging';
import {
  type Channel,
  channelValueAt,
  type Interpolation,
  type Key,
  speedProfile,
} from '@keen-ridge/core/timing';
import { SWAY_AXES, swayAt } from '@keen-ridge/core/timing/moves';
import type { PointerEvent } from 'react';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession } from '../../session/use-session.ts';
import type { TimeScale } from '../time-scale.ts';
import type { StripRow } from './strip-rows.ts';
import { ROW_HEIGHT } from './strip-sizes.ts';

/** Where spans stand on, px from the top of their row. */
export const FLOOR = ROW_HEIGHT - 5;
const CEILING = 6;
/** Px of a span for one sample of its speed. */
const PX_PER_SAMPLE = 5;
const MOST_SAMPLES = 40;
/** Keys closer than this, on average, are drawn without their spans' profiles. */
const CROWDED_PX = 5;

/** How a channel goes from key to key. */
export const interpolationIn = (scene: Scene, ref: ChannelRef): Interpolation =>
  ref.name === 'track' ? 'linear' : interpolationOf(scene, ref.name);

interface SpansProps {
  channel: Channel;
  scale: TimeScale;
  selected: ReadonlySet<number>;
  row: Extract<StripRow, { kind: 'channel' }>;
  scene: Scene;
}

/** Each span filled with its own speed; all of a channel on one scale, so that they can be compared. */
export function Spans({ channel, scale, selected, row, scene }: SpansProps) {
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
export function Beyonds({ channel, scale, row, scene }: Omit<SpansProps, 'selected'>) {
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
export function SwayGhost({
  name,
  scene,
  scale,
}: {
  name: ChannelRef['name'];
  scene: Scene;
  scale: TimeScale;
}) {
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
