import { easeSelected, isOnTrack, moveSelected, setChannelValue } from '@keen-ridge/core/edits/keys';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import {
  type ChannelId,
  type ChannelRef,
  channelAt,
  channelId,
  channelRef,
  interpolationOf,
  keyedChannels,
  mayOvershoot,
  shownScale,
  shownValueAt,
} from '@keen-ridge/core/staging';
import { speedsOf } from '@keen-ridge/core/staging/sample';
import { strobingPxPerFrame } from '@keen-ridge/core/survey';
import { type Ease, interpolate, withoutOvershoot } from '@keen-ridge/core/timing';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { CHANNEL_WORDS, channelTitle } from '../../edits/channel-words.ts';
import { toggled } from '../../session/choices/shot-view.ts';
import { useCalmScene } from '../../session/use-calm-scene.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { keysWord } from '../../timeline/key-actions.ts';
import { Button } from '../../ui/button.tsx';
import { type ElementSize, useElementSize } from '../../ui/use-element-size.ts';
import { depthRampColour } from './curve-looks.ts';
import { type Curve, type CurvesChart, type CurvesShown, drawCurves, makeChart } from './curves-chart.ts';
import { useSample } from './use-sample.ts';

const SPEEDS = '#5a5a5a';
const COLOURS = ['#c8401a', '#0b6e75', '#1a1a1a', '#7a4424', '#5c7aa0', '#708048'] as const;

/** The channels that are drawn: those that were asked for and still have keys; else the first keyed one. */
function useShownChannels(scene: Scene): [ChannelRef[], ChannelRef[], (id: ChannelId) => void] {
  const [asked, setAsked] = useState<readonly ChannelId[]>([]);
  // The same list while the scene is: the chart is drawn anew when it is another.
  const [keyed, shown] = useMemo(() => {
    const all = keyedChannels(scene).filter((ref) => ref.name !== 'track' && !isOnTrack(scene, ref));
    const there = asked.filter((id) => all.some((ref) => channelId(ref) === id)).map(channelRef);
    return [all, there.length > 0 ? there : all.slice(0, 1)];
  }, [scene, asked]);
  return [keyed, shown, (id) => setAsked(toggled(shown.map(channelId), id))];
}

/** Values and speeds over time: drawn to be read, with handles of our own on the keys to shape them. */
export function CurvesView() {
  const session = useSession();
  const shownScene = useShownScene();
  const scene = useCalmScene();
  const frame = useSessionState((state) => state.frame);
  const sample = useSample(scene);
  const [keyed, shown, toggle] = useShownChannels(shownScene);
  const room = useRef<HTMLDivElement>(null);
  const chart = useRef<CurvesChart | null>(null);
  const [drawn, setDrawn] = useState(0);
  const size = useElementSize(room);

  useEffect(() => {
    if (!room.current) return;
    const made = makeChart(room.current);
    chart.current = made;
    return () => made.dispose();
  }, []);
  const curves = useMemo((): CurvesShown => {
    const units = new Set(shown.map((ref) => CHANNEL_WORDS[ref.name].unit));
    const frames = Array.from({ length: shownScene.lengthFrames }, (_, i) => i + 1);
    const values = shown.map(
      (ref, i): Curve => ({
        name: channelTitle(shownScene, ref),
        colour: COLOURS[i % COLOURS.length]!,
        values: frames.map((f) => shownValueAt(shownScene, ref, f) * CHANNEL_WORDS[ref.name].times),
      }),
    );
    const count = sample?.planeCount === planesOf(scene).length ? planesOf(scene).length : 0;
    const speeds = Array.from({ length: count }, (_, i): Curve => {
      const plane = planesOf(scene)[i]!;
      return {
        name: `${plane.name}, on screen`,
        colour: depthRampColour(scene, plane),
        values: speedsOf(sample!, i),
      };
    }).filter((curve) => curve.values.some((v) => v > 1e-6));
    const pan = panSpeed(shownScene);
    const panned = pan.some((v) => v > 1e-6)
      ? [{ name: 'Pan on the datum', colour: SPEEDS, values: pan }]
      : [];
    return {
      values,
      valueUnit: units.size === 1 ? [...units].join() : 'each in its unit',
      speeds: [...panned, ...speeds],
      limit: strobingPxPerFrame(shownScene.frame.widthPx),
      frame,
    };
  }, [shownScene, scene, sample, frame, shown]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a chart of another height is drawn anew
  useEffect(() => {
    const { current } = chart;
    if (!current || size.width === 0) return;
    current.resize();
    drawCurves(current, curves);
    setDrawn((n) => n + 1);
  }, [curves, size.width, size.height]);

  return (
    <section aria-label="Curves" className="flex min-h-0 min-w-0 flex-1 flex-col bg-raised">
      <div className="flex flex-wrap items-center gap-1 border-b border-rule-light px-3 py-1.5">
        {keyed.length === 0 && (
          <span className="text-ink-2">
            No channel has keys yet: key the camera or a plane at two frames.
          </span>
        )}
        {keyed.map((ref) => (
          <Button
            key={channelId(ref)}
            on={shown.some((one) => channelId(one) === channelId(ref))}
            onClick={() => toggle(channelId(ref))}
          >
            {channelTitle(shownScene, ref)}
          </Button>
        ))}
      </div>
      <div className="relative min-h-0 flex-1">
        <div ref={room} className="absolute inset-0" data-testid="curves" />
        {shown.length === 1 && shown[0] && chart.current && drawn > 0 && (
          <CurveHandles chart={chart.current} channel={shown[0]} size={size} />
        )}
      </div>
      {shown.length > 1 && (
        <p className="border-t border-rule-light px-3 py-1 text-[12px] text-ink-2">
          Show one channel alone to shape it by its handles.
        </p>
      )}
      <span className="sr-only" role="status">
        {session.state.selectedKeys.length} keys chosen
      </span>
    </section>
  );
}

/** How fast the datum slides under the camera, px a frame. */
function panSpeed(scene: Scene): number[] {
  const [x, y] = (['panX', 'panY'] as const).map((name) =>
    Array.from({ length: scene.lengthFrames }, (_, i) => shownValueAt(scene, { on: 'camera', name }, i + 1)),
  ) as [number[], number[]];
  const zoom = (i: number) => shownValueAt(scene, { on: 'camera', name: 'zoom' }, i + 1);
  return x.map((v, i) => (i + 1 < x.length ? Math.hypot(x[i + 1]! - v, y[i + 1]! - y[i]!) * zoom(i) : 0));
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Keys and Bézier handles of one channel over the chart of its values. */
function CurveHandles({
  chart,
  channel: ref,
  size,
}: {
  chart: CurvesChart;
  channel: ChannelRef;
  size: ElementSize;
}) {
  const session = useSession();
  const scene = useShownScene();
  const selected = useSessionState((state) => state.selectedKeys);
  const channel = channelAt(scene, ref);
  if (!channel) return null;
  const id = channelId(ref);
  const { times } = CHANNEL_WORDS[ref.name];
  const { show } = shownScale(scene, ref);
  const interpolation = interpolationOf(scene, ref.name);
  const spot = (frame: number, stored: number): Spot | null => {
    const at = chart.convertToPixel({ gridIndex: 0 }, [frame, show(stored) * times]);
    return Array.isArray(at) ? { x: at[0]!, y: at[1]! } : null;
  };
  const valueAt = (event: { clientX: number; clientY: number; currentTarget: Element }): Spot | null => {
    const box = event.currentTarget.closest('svg')?.getBoundingClientRect();
    const at = chart.convertFromPixel({ gridIndex: 0 }, [
      event.clientX - (box?.left ?? 0),
      event.clientY - (box?.top ?? 0),
    ]);
    return Array.isArray(at) ? { x: at[0]!, y: at[1]! / times } : null;
  };
  const title = channelTitle(scene, ref);
  const isChosen = (frame: number) => selected.some((key) => key.channel === id && key.frame === frame);
  return (
    <svg
      width={size.width}
      height={size.height}
      className="pointer-events-none absolute inset-0"
      data-testid="curve-handles"
    >
      <title>{`Keys of ${title}`}</title>
      {channel.keys.map((key, i) => {
        const next = channel.keys[i + 1];
        const { ease } = key;
        if (!next || ease.kind !== 'bezier' || !(isChosen(key.frame) || isChosen(next.frame))) return null;
        return ([1, 2] as const).map((n) => {
          const [x, y] = n === 1 ? [ease.x1, ease.y1] : [ease.x2, ease.y2];
          const end = n === 1 ? spot(key.frame, key.value) : spot(next.frame, next.value);
          const at = spot(
            key.frame + (next.frame - key.frame) * x,
            interpolate(key.value, next.value, y, interpolation),
          );
          return (
            end &&
            at && (
              <EaseHandle
                key={`${key.frame}-${n}`}
                word={`${n === 1 ? 'Leaving' : 'Arriving'} handle of ${title} ${key.frame} → ${next.frame}`}
                end={end}
                at={at}
                put={(to) => {
                  const share =
                    next.value === key.value ? y : progressOf(scene, ref, to.y, key.value, next.value);
                  const time = Math.min(1, Math.max(0, (to.x - key.frame) / (next.frame - key.frame)));
                  const high = Math.min(10, Math.max(-10, share));
                  const free: Ease =
                    n === 1 ? { ...ease, x1: time, y1: high } : { ...ease, x2: time, y2: high };
                  const bounded = mayOvershoot(ref.name) ? free : withoutOvershoot(free);
                  return easeSelected(session.state.scene, new Map([[id, new Set([key.frame])]]), bounded);
                }}
                valueAt={valueAt}
              />
            )
          );
        });
      })}
      {channel.keys.map((key) => {
        const at = spot(key.frame, key.value);
        return (
          at && (
            <CurveKey
              key={key.frame}
              channel={ref}
              frame={key.frame}
              at={at}
              chosen={isChosen(key.frame)}
              valueAt={valueAt}
              word={`${title} key at frame ${key.frame} on its curve`}
            />
          )
        );
      })}
    </svg>
  );
}

/** The progress between two keys at which a shown value lies, on the scale on which they are joined. */
function progressOf(scene: Scene, ref: ChannelRef, shown: number, from: number, to: number): number {
  const stored = shownScale(scene, ref).store(shown);
  const interpolation = interpolationOf(scene, ref.name);
  if (interpolation === 'linear') return (stored - from) / (to - from);
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const ratio = (stored - pivot) / (from - pivot);
  return ratio > 0 ? Math.log(ratio) / Math.log((to - pivot) / (from - pivot)) : 0;
}

interface EaseHandleProps {
  word: string;
  end: Spot;
  at: Spot;
  put: (to: Spot) => Scene;
  valueAt: (event: PointerEvent<Element>) => Spot | null;
}

function EaseHandle({ word, end, at, put, valueAt }: EaseHandleProps) {
  const session = useSession();
  const moved = useRef<Scene | null>(null);
  return (
    <>
      <line x1={end.x} y1={end.y} x2={at.x} y2={at.y} stroke="#0b6e75" strokeWidth={1.5} />
      {/* biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own */}
      <circle
        role="button"
        tabIndex={0}
        aria-label={word}
        cx={at.x}
        cy={at.y}
        r={5.5}
        fill="#0b6e75"
        className="pointer-events-auto cursor-move touch-none"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={(event) => {
          const to = event.buttons === 1 ? valueAt(event) : null;
          if (!to) return;
          moved.current = put(to);
          session.show(moved.current);
        }}
        onPointerUp={(event) => {
          event.currentTarget.blur();
          if (moved.current) session.commit('set-ease', 'a curve', moved.current);
          moved.current = null;
        }}
        onPointerCancel={() => {
          moved.current = null;
          session.show(null);
        }}
      />
    </>
  );
}

interface CurveKeyProps {
  channel: ChannelRef;
  frame: number;
  at: Spot;
  chosen: boolean;
  word: string;
  valueAt: (event: PointerEvent<Element>) => Spot | null;
}

/** A key on its curve: dragged in time and value at once; Alt and the arrows too. */
function CurveKey({ channel: ref, frame, at, chosen, word, valueAt }: CurveKeyProps) {
  const session = useSession();
  const press = useRef<{ readonly x: number; readonly y: number; next: Scene | null; to: number } | null>(
    null,
  );
  const id = channelId(ref);
  const here = new Map([[id, new Set([frame])]]);
  const put = (to: Spot): { scene: Scene; frame: number } => {
    const kept = session.state.scene;
    const goal = Math.max(1, Math.round(to.x));
    const valued = setChannelValue(kept, ref, to.y, { frame, keying: true });
    return { scene: moveSelected(valued, here, goal - frame), frame: goal };
  };
  const keep = (scene: Scene, to: number) => {
    session.commit('set-keys', keysWord(session.state.scene, [{ channel: id, frame }]), scene);
    session.selectKeys([{ channel: id, frame: to }]);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const { step, times } = CHANNEL_WORDS[ref.name];
    const by = { ArrowUp: step, ArrowDown: -step }[event.key];
    if (by === undefined) {
      if (event.key !== 'Enter') return;
      session.selectKeys([{ channel: id, frame }]);
      session.goTo(frame);
    } else {
      const { scene } = session.state;
      const value = shownValueAt(scene, ref, frame) + ((event.shiftKey ? 10 : 1) * by) / times;
      keep(setChannelValue(scene, ref, value, { frame, keying: true }), frame);
    }
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <rect
      role="button"
      tabIndex={0}
      aria-label={word}
      aria-pressed={chosen}
      x={at.x - 4}
      y={at.y - 9}
      width={8}
      height={18}
      rx={4}
      fill={chosen ? '#c8401a' : '#1a1a1a'}
      stroke="#fff"
      className="pointer-events-auto cursor-move touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        press.current = { x: event.clientX, y: event.clientY, next: null, to: frame };
        session.selectKeys([{ channel: id, frame }]);
      }}
      onPointerMove={(event) => {
        const from = press.current;
        const to = event.buttons === 1 ? valueAt(event) : null;
        if (!from || !to || Math.hypot(event.clientX - from.x, event.clientY - from.y) < 3) return;
        const { scene, frame: goal } = put(event.shiftKey ? { x: frame, y: to.y } : to);
        press.current = { ...from, next: scene, to: goal };
        session.show(scene);
      }}
      onPointerUp={(event) => {
        event.currentTarget.blur();
        const ended = press.current;
        press.current = null;
        if (ended?.next) keep(ended.next, ended.to);
      }}
      onPointerCancel={() => {
        press.current = null;
        session.show(null);
      }}
      onKeyDown={onKeyDown}
    />
  );
}
