import { type ChannelId, type ChannelRef, channelId, channelRef, isColour } from '@keen-ridge/core/staging';
import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { useSurveyLimits } from '../../api/survey.ts';
import { channelTitle } from '../../edits/channel-words.ts';
import { onRoom } from '../../session/choices/room.ts';
import { toggled } from '../../session/choices/shot-view.ts';
import { useCalmScene } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { counted } from '../../ui/format.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { moveWords as say } from '../../words/move.ts';
import { CurveHandles } from './curve-handles.tsx';
import { curvesShown, drawableChannels, speedCurves, valueCurves } from './curve-model.ts';
import { type CurvesChart, drawCurves, makeChart } from './curves-chart.ts';
import { useSample } from './use-sample.ts';

/** Values and speeds over time: drawn to be read, with handles of our own on the keys to shape them. */
export function CurvesView() {
  const shownScene = useShownScene();
  const calmScene = useCalmScene();
  const sample = useSample(calmScene);
  const [asked, setAsked] = useState<readonly ChannelId[]>([]);
  const keyed = useMemo(() => drawableChannels(shownScene), [shownScene]);
  /** Those that were asked for and still have keys; else the first keyed one. */
  const shown = useMemo(() => {
    const there = asked.filter((id) => keyed.some((ref) => channelId(ref) === id)).map(channelRef);
    return there.length > 0 ? there : keyed.slice(0, 1);
  }, [keyed, asked]);
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
  const values = useMemo(() => valueCurves(shownScene, shown), [shownScene, shown]);
  const speeds = useMemo(() => speedCurves(calmScene, sample), [calmScene, sample]);
  const { productionId } = useSession().shot;
  const { data: limits = USUAL_LIMITS } = useSurveyLimits(productionId);
  const { crossingSeconds } = limits;
  const curves = useMemo(
    () => curvesShown(shownScene, shown, { values, speeds }, crossingSeconds),
    [shownScene, shown, values, speeds, crossingSeconds],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: a chart of another height is drawn anew
  useEffect(() => {
    const { current } = chart;
    if (!current || size.width === 0) return;
    current.resize();
    drawCurves(current, curves);
    setDrawn((n) => n + 1);
    return onRoom(() => drawCurves(current, curves));
  }, [curves, size.width, size.height]);

  const hint =
    shown.length > 1
      ? say.showOneChannelAloneTo
      : shown[0] && isColour(shown[0].name)
        ? say.aColourIsChangedOnTheStrip
        : null;
  return (
    <section aria-label={say.curves} className="flex min-h-0 min-w-0 flex-1 flex-col bg-raised">
      <div className="flex flex-wrap items-center gap-1 border-b border-rule-light px-3 py-1.5">
        {keyed.length === 0 && <span className="text-ink-2">{say.noChannelHasKeysYet}</span>}
        {keyed.map((ref) => (
          <ChannelSwitch
            key={channelId(ref)}
            channel={ref}
            on={shown.some((one) => channelId(one) === channelId(ref))}
            onToggle={() => setAsked(toggled(shown.map(channelId), channelId(ref)))}
          />
        ))}
      </div>
      <div className="relative min-h-0 flex-1 overflow-hidden">
        <div ref={room} className="absolute inset-0" data-testid="curves" />
        {drawn > 0 && keyed.length > 0 && <Playhead chart={chart} drawn={drawn} />}
        {shown.length === 1 && shown[0] && !isColour(shown[0].name) && chart.current && drawn > 0 && (
          <CurveHandles chart={chart.current} channel={shown[0]} size={size} />
        )}
      </div>
      {hint && <p className="border-t border-rule-light px-3 py-1 text-[12px] text-ink-2">{hint}</p>}
      <ChosenCount />
    </section>
  );
}

function ChannelSwitch({
  channel,
  on,
  onToggle,
}: {
  channel: ChannelRef;
  on: boolean;
  onToggle: () => void;
}) {
  const scene = useShownScene();
  return (
    <Button on={on} onClick={onToggle}>
      {channelTitle(scene, channel)}
    </Button>
  );
}

/** The current frame, over the chart: while the shot plays it alone moves, and the chart is not touched. */
function Playhead({ chart, drawn }: { chart: RefObject<CurvesChart | null>; drawn: number }) {
  const session = useSession();
  const line = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a chart that is drawn anew has another scale
  useEffect(() => {
    const place = () => {
      const x = chart.current?.convertToPixel({ xAxisIndex: 0 }, session.state.frame);
      if (line.current && typeof x === 'number') line.current.style.transform = `translateX(${x}px)`;
    };
    place();
    return session.store.subscribe((state, before) => {
      if (state.frame !== before.frame) place();
    });
  }, [chart, session, drawn]);
  return (
    <div
      ref={line}
      className="pointer-events-none absolute top-14 bottom-7 left-0 w-px bg-signal"
      data-testid="curves-playhead"
    />
  );
}

function ChosenCount() {
  const count = useSessionState((state) => state.selectedKeys.length);
  return (
    <span className="sr-only" role="status">
      {say.countedChosen(counted(count, 'key'))}
    </span>
  );
}
