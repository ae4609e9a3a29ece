import {
  type CameraChannel,
  CHANNEL_KINDS,
  cameraValueAt,
  moveCameraKeys,
  setCamera,
} from '@keen-ridge/core/document';
import { type Channel, type Key, speedProfile } from '@keen-ridge/core/timing';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { keySelection } from '../state/key-selection.ts';
import type { SelectedKey } from '../state/session.ts';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';
import { CHANNEL_WORDS } from './channel-words.ts';
import type { TimeScale } from './time-scale.ts';
import { ROW_HEIGHT } from './timing-strip.tsx';

interface ChannelRowProps {
  name: CameraChannel;
  scale: TimeScale;
  width: number;
}

/** One channel over time. Keys are dragged; a double click sets one; a click on a span chooses its ease. */
export function ChannelRow({ name, scale, width }: ChannelRowProps) {
  const session = useSession();
  const scene = useShownScene();
  const selected = useSessionState((state) => state.selectedKeys);
  const channel = scene.camera[name];
  const addKey = (event: { clientX: number; currentTarget: Element }) => {
    const frame = scale.frameAt(event.clientX - event.currentTarget.getBoundingClientRect().left);
    const { scene: kept } = session.state;
    if (frame < 1 || frame > kept.lengthFrames) return;
    const value = cameraValueAt(kept, name, frame);
    session.commit(
      'key-camera',
      CHANNEL_WORDS[name].name,
      setCamera(kept, { [name]: value }, { frame, keying: true }),
    );
    session.selectKeys([{ channel: name, frame }]);
  };
  return (
    <svg
      width={width}
      height={ROW_HEIGHT}
      className="block border-b border-rule-light"
      onDoubleClick={addKey}
      onPointerDown={(event) => event.target === event.currentTarget && session.selectKeys([])}
    >
      <title>{`${CHANNEL_WORDS[name].name}: double-click to set a key`}</title>
      <Spans name={name} channel={channel} scale={scale} selected={selected} />
      <line x1={0} x2={width} y1={ROW_HEIGHT - 5} y2={ROW_HEIGHT - 5} stroke="#e4e4e4" pointerEvents="none" />
      {channel.keys.map((key) => (
        <KeyPill
          key={key.frame}
          name={name}
          keyed={key}
          scale={scale}
          selected={selected.some((s) => s.channel === name && s.frame === key.frame)}
        />
      ))}
    </svg>
  );
}

const SAMPLES = 32;
const FLOOR = ROW_HEIGHT - 5;
const CEILING = 6;

interface SpansProps {
  name: CameraChannel;
  channel: Channel;
  scale: TimeScale;
  selected: readonly SelectedKey[];
}

/** Each span filled with its own speed; all of a channel on one scale, so that they can be compared. */
function Spans({ name, channel, scale, selected }: SpansProps) {
  const session = useSession();
  const { interpolation } = CHANNEL_KINDS[name];
  const profiles = channel.keys
    .slice(0, -1)
    .map((_, i) => speedProfile(channel, i, SAMPLES, interpolation).map(Math.abs));
  const fastest = Math.max(1e-12, ...profiles.flat());
  return profiles.map((profile, i) => {
    const from = channel.keys[i] as Key;
    const to = channel.keys[i + 1] as Key;
    const [x0, x1] = [scale.xAt(from.frame), scale.xAt(to.frame)];
    const still = profile.every((speed) => speed < 1e-9);
    const chosen = selected.some((s) => s.channel === name && s.frame === from.frame);
    const points = profile.map(
      (speed, k) =>
        `${x0 + ((k + 0.5) / SAMPLES) * (x1 - x0)},${FLOOR - (speed / fastest) * (FLOOR - CEILING)}`,
    );
    const ends = [profile[0] ?? 0, profile.at(-1) ?? 0].map(
      (speed) => FLOOR - (speed / fastest) * (FLOOR - CEILING),
    );
    return (
      <g
        key={from.frame}
        className="cursor-pointer"
        data-testid={`span-${name}-${from.frame}`}
        onPointerDown={() => session.selectKeys([{ channel: name, frame: from.frame }])}
      >
        <rect
          x={x0}
          y={2}
          width={Math.max(0, x1 - x0)}
          height={ROW_HEIGHT - 4}
          fill={chosen ? '#dbe9ea' : 'transparent'}
        />
        {still ? (
          <rect x={x0} y={FLOOR - 6} width={x1 - x0} height={6} fill="#d9d9d9" />
        ) : (
          <>
            <polygon
              points={`${x0},${FLOOR} ${x0},${ends[0]} ${points.join(' ')} ${x1},${ends[1]} ${x1},${FLOOR}`}
              fill="#c8401a"
              fillOpacity={0.28}
            />
            <line x1={x0} x2={x1} y1={FLOOR} y2={FLOOR} stroke="#c8401a" />
          </>
        )}
      </g>
    );
  });
}

interface KeyPillProps {
  name: CameraChannel;
  keyed: Key;
  scale: TimeScale;
  selected: boolean;
}

function KeyPill({ name, keyed, scale, selected }: KeyPillProps) {
  const session = useSession();
  const drag = useRef<{ x: number; by: number; keys: readonly SelectedKey[] } | null>(null);
  const here: SelectedKey = { channel: name, frame: keyed.frame };
  const movedTo = (keys: readonly SelectedKey[], by: number) =>
    keys.map((key) => ({ ...key, frame: key.frame + by }));
  const isHere = (key: SelectedKey) => key.channel === name && key.frame === keyed.frame;

  const onPointerDown = (event: PointerEvent<SVGGElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
    const there = session.state.selectedKeys;
    const add = event.shiftKey || event.ctrlKey || event.metaKey;
    const keys = there.some(isHere)
      ? add
        ? there.filter((key) => !isHere(key))
        : there
      : add
        ? [...there, here]
        : [here];
    session.selectKeys(keys);
    follow(event, keys);
  };
  /** Followed on the window, since the pill itself is drawn anew wherever the drag takes it. */
  const follow = (down: PointerEvent<SVGGElement>, keys: readonly SelectedKey[]) => {
    drag.current = { x: down.clientX, by: 0, keys };
    const { scene } = session.state;
    const onMove = (event: globalThis.PointerEvent) => {
      const under = drag.current;
      if (!under) return;
      const wanted = Math.round((event.clientX - under.x) / scale.pxPerFrame);
      const first = Math.min(...keys.map((key) => key.frame));
      const last = Math.max(...keys.map((key) => key.frame));
      under.by = Math.max(1 - first, Math.min(Math.max(scene.lengthFrames, last) - last, wanted));
      session.show(moveCameraKeys(scene, keySelection(keys), under.by));
      session.selectKeys(movedTo(keys, under.by));
    };
    const onUp = () => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
      window.removeEventListener('pointercancel', onUp);
      session.commit('move-keys', CHANNEL_WORDS[name].name, session.shown);
      drag.current = null;
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
    window.addEventListener('pointercancel', onUp);
  };
  const onKeyDown = (event: KeyboardEvent<SVGGElement>) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      event.stopPropagation();
      session.selectKeys([here]);
      session.goTo(keyed.frame);
    }
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      event.preventDefault();
      event.stopPropagation();
      const by = event.key === 'ArrowLeft' ? -1 : 1;
      const keys = selected ? session.state.selectedKeys : [here];
      if (keys.some((key) => key.frame + by < 1)) return;
      session.commit(
        'move-keys',
        CHANNEL_WORDS[name].name,
        moveCameraKeys(session.state.scene, keySelection(keys), by),
      );
      session.selectKeys(movedTo(keys, by));
    }
  };
  const x = scale.xAt(keyed.frame);
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      tabIndex={0}
      aria-pressed={selected}
      aria-label={`${CHANNEL_WORDS[name].name} key at frame ${keyed.frame}`}
      className="cursor-ew-resize"
      onPointerDown={onPointerDown}
      onDoubleClick={(event) => event.stopPropagation()}
      onKeyDown={onKeyDown}
    >
      <rect x={x - 7} y={0} width={14} height={ROW_HEIGHT} fill="transparent" />
      <rect
        x={x - 2.5}
        y={5}
        width={5}
        height={ROW_HEIGHT - 10}
        rx={2.5}
        fill={selected ? '#c8401a' : '#1a1a1a'}
      />
    </g>
  );
}
