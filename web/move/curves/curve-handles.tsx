import { easeSelected, moveSelected, setChannelValue } from '@keen-ridge/core/edits/keys';
import type { Scene } from '@keen-ridge/core/scene';
import {
  type ChannelRef,
  channelAt,
  channelId,
  interpolationOf,
  mayOvershoot,
  shownScale,
  shownValueAt,
} from '@keen-ridge/core/staging';
import { type Ease, interpolate, withoutOvershoot } from '@keen-ridge/core/timing';
import type { KeyboardEvent } from 'react';
import { CHANNEL_WORDS, channelTitle } from '../../edits/channel-words.ts';
import { keySelection } from '../../session/choices/key-selection.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { keysWord } from '../../timeline/key-actions.ts';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import type { ElementSize } from '../../ui/use-element-size.ts';
import { moveWords as say } from '../../words/move.ts';
import { progressOf } from './curve-model.ts';
import type { CurvesChart } from './curves-chart.ts';

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Keys and Bézier handles of one channel over the chart of its values. */
export function CurveHandles({
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
  const spotUnder: SpotUnder = ({ clientX, clientY }, svg) => {
    const box = svg.getBoundingClientRect();
    const at = chart.convertFromPixel({ gridIndex: 0 }, [clientX - box.left, clientY - box.top]);
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
      <title>{say.keysOfTitle(title)}</title>
      {channel.keys.map((key, i) => {
        const next = channel.keys[i + 1];
        const { ease } = key;
        if (!next || ease.kind !== 'bezier' || !(isChosen(key.frame) || isChosen(next.frame))) return null;
        return ([1, 2] as const).map((n) => {
          const [x, y] = n === 1 ? [ease.x1, ease.y1] : [ease.x2, ease.y2];
          /** The span with this handle at a share of its time and of its rise. */
          const eased = (kept: Scene, time: number, share: number): Scene => {
            const [across, up] = [Math.min(1, Math.max(0, time)), Math.min(10, Math.max(-10, share))];
            const free: Ease = n === 1 ? { ...ease, x1: across, y1: up } : { ...ease, x2: across, y2: up };
            const bounded = mayOvershoot(ref.name) ? free : withoutOvershoot(free);
            return easeSelected(kept, new Map([[id, new Set([key.frame])]]), bounded);
          };
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
                put={(kept, to) => {
                  const share =
                    next.value === key.value ? y : progressOf(scene, ref, to.y, key.value, next.value);
                  return eased(kept, (to.x - key.frame) / (next.frame - key.frame), share);
                }}
                nudge={(by) =>
                  session.commit('set-ease', 'a curve', eased(session.state.scene, x + by.x, y + by.y))
                }
                spotUnder={spotUnder}
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
              spotUnder={spotUnder}
              word={`${title} key at frame ${key.frame} on its curve`}
            />
          )
        );
      })}
    </svg>
  );
}

interface EaseHandleProps {
  word: string;
  end: Spot;
  at: Spot;
  put: (kept: Scene, to: Spot) => Scene;
  spotUnder: SpotUnder;
  /** A step of the arrows: a share of the span across, a share of its rise up. */
  nudge: (by: Spot) => void;
}

/** The place of a pointer on the chart: frame, and value as it is shown. */
type SpotUnder = (at: { clientX: number; clientY: number }, svg: Element) => Spot | null;

function EaseHandle({ word, end, at, put, spotUnder, nudge }: EaseHandleProps) {
  const session = useSession();
  const drag = useDrag<SVGCircleElement>(
    (down) => {
      const svg = down.currentTarget.closest('svg');
      if (!svg) return null;
      return sceneDrag(session, {
        action: 'set-ease',
        subject: 'a curve',
        change: (kept, to) => {
          const spot = spotUnder(to, svg);
          return spot ? put(kept, spot) : kept;
        },
      });
    },
    { slackPx: 1 },
  );
  return (
    <>
      <line x1={end.x} y1={end.y} x2={at.x} y2={at.y} stroke="var(--color-select)" strokeWidth={1.5} />
      {/* biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own */}
      <g
        role="button"
        tabIndex={0}
        aria-label={word}
        className="pointer-events-auto cursor-move touch-none"
        onKeyDown={(event) => {
          const by = arrowStep(event);
          if (!by) return;
          event.preventDefault();
          nudge({ x: by.x * EASE_STEP, y: -by.y * EASE_STEP });
        }}
        {...drag}
      >
        <circle cx={at.x} cy={at.y} r={12} fill="transparent" />
        <circle cx={at.x} cy={at.y} r={5.5} fill="var(--color-select)" />
      </g>
    </>
  );
}

const EASE_STEP = 0.02;

interface CurveKeyProps {
  channel: ChannelRef;
  frame: number;
  at: Spot;
  chosen: boolean;
  word: string;
  spotUnder: SpotUnder;
}

/** A key on its curve: dragged in time and value at once (with Shift in value alone); by the arrows in value. */
function CurveKey({ channel: ref, frame, at, chosen, word, spotUnder }: CurveKeyProps) {
  const session = useSession();
  const id = channelId(ref);
  const here = [{ channel: id, frame }];
  const valued = (kept: Scene, value: number): Scene =>
    setChannelValue(kept, ref, value, { frame, keying: true });
  const drag = useDrag<SVGRectElement>((down) => {
    const svg = down.currentTarget.closest('svg');
    if (!svg) return null;
    const subject = keysWord(session.state.scene, here);
    let goal = frame;
    session.selectKeys(here);
    const choose = () => session.selectKeys([{ channel: id, frame: goal }]);
    const change = sceneDrag(session, {
      action: 'set-keys',
      subject,
      change: (kept, to) => {
        const spot = spotUnder(to, svg);
        if (!spot) return kept;
        goal = to.shiftKey ? frame : Math.max(1, Math.round(spot.x));
        return moveSelected(valued(kept, spot.y), keySelection(here), goal - frame);
      },
      drop: () => session.selectKeys(here),
      kept: choose,
    });
    return {
      ...change,
      move: (to) => {
        change.move?.(to);
        choose();
      },
    };
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event);
    if (event.key === 'Enter') {
      session.selectKeys(here);
      session.goTo(frame);
    } else if (by?.y) {
      const { step, times } = CHANNEL_WORDS[ref.name];
      const { scene } = session.state;
      const value = shownValueAt(scene, ref, frame) - (by.y * step) / times;
      session.commit('set-keys', keysWord(scene, here), valued(scene, value));
      session.selectKeys(here);
    } else return;
    event.preventDefault();
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
      fill={chosen ? 'var(--color-signal)' : 'var(--color-ink)'}
      stroke="var(--color-raised)"
      strokeWidth={1}
      className="pointer-events-auto cursor-move touch-none"
      onKeyDown={onKeyDown}
      {...drag}
    />
  );
}
