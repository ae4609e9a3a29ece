import { PEAKS_PER_SECOND } from '@keen-ridge/core/contract/sound';
import { changeSound } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import type { Sound } from '@keen-ridge/core/scene/sound';
import { secondsIntoSound, waveColumns } from '@keen-ridge/core/timing/sound';
import { Volume2, VolumeX } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { useSoundPeaks } from '../../api/sound.ts';
import { useSoundReady } from '../../session/sound/use-sound.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useDrag } from '../../ui/pointer/drag.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import type { TimeScale } from '../time-scale.ts';
import { HEAD_WIDTH } from './strip-sizes.ts';

export const SOUND_HEIGHT = 40;

interface SoundLaneProps {
  sound: Sound;
  rate: Scene['rate'];
  scale: TimeScale;
  width: number;
}

/** The sound under the rows: its wave over the frames, dragged to where it begins. */
export function SoundLane({ sound, rate, scale, width }: SoundLaneProps) {
  const session = useSession();
  const ready = useSoundReady((state) => state.id === sound.id);
  const drag = useDrag<HTMLButtonElement>((down) => {
    const from = down.clientX;
    const gesture = session.begin('set-sound', sound.name);
    const { startFrame } = sound;
    return {
      move: ({ clientX }) =>
        gesture.update((scene) =>
          changeSound(scene, { startFrame: startFrame + Math.round((clientX - from) / scale.pxPerFrame) }),
        ),
      keep: () => gesture.keep(),
      drop: () => gesture.drop(),
    };
  });
  return (
    <div className="sticky bottom-0 z-20 flex border-t border-rule bg-bar" style={{ height: SOUND_HEIGHT }}>
      <div
        className="flex shrink-0 items-center gap-1 border-r border-rule px-3"
        style={{ width: HEAD_WIDTH }}
      >
        <span className="narrow min-w-0 flex-1 truncate" title={sound.name}>
          {sound.name}
        </span>
        <Button
          tone="bare"
          icon
          aria-label={sound.muted ? say.unmuteTheSound : say.muteTheSound}
          aria-pressed={sound.muted}
          onClick={() =>
            session.commit('set-sound', sound.name, changeSound(session.state.scene, { muted: !sound.muted }))
          }
        >
          {sound.muted ? <VolumeX size={13} aria-hidden="true" /> : <Volume2 size={13} aria-hidden="true" />}
        </Button>
      </div>
      <button
        type="button"
        aria-label={say.soundBeginsAt(sound.name, sound.startFrame)}
        data-testid="sound"
        data-ready={ready}
        className="relative min-w-0 flex-1 cursor-grab touch-none overflow-hidden text-left"
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
          if (!by) return;
          event.preventDefault();
          event.stopPropagation();
          const to = sound.startFrame + by * (event.shiftKey ? 10 : 1);
          session.commit('set-sound', sound.name, changeSound(session.state.scene, { startFrame: to }));
        }}
        {...drag}
      >
        {width > 0 && <Wave sound={sound} rate={rate} scale={scale} width={width} />}
      </button>
    </div>
  );
}

function Wave({ sound, rate, scale, width }: SoundLaneProps) {
  const peaks = useSoundPeaks(sound.id);
  const canvas = useRef<HTMLCanvasElement>(null);
  const columns = useMemo(() => {
    if (!peaks.data) return null;
    // A frame is drawn about its middle, and sounds from there on.
    const frameAt = (x: number) => scale.first + (x - scale.xAt(scale.first)) / scale.pxPerFrame;
    const [from, to] = [0, width].map((x) => secondsIntoSound(sound.startFrame, frameAt(x), rate)) as [
      number,
      number,
    ];
    return waveColumns(peaks.data, PEAKS_PER_SECOND, { from, to, columns: Math.max(1, Math.round(width)) });
  }, [peaks.data, scale, width, sound.startFrame, rate]);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !columns) return;
    const { width: wide, height: high } = context.canvas;
    // A soft recording is drawn as tall as a loud one: what counts is when.
    const loudest = Math.max(0.01, (peaks.data?.reduce((most, peak) => Math.max(most, peak), 0) ?? 0) / 255);
    context.clearRect(0, 0, wide, high);
    context.fillStyle = getComputedStyle(context.canvas).color;
    columns.forEach((loud, x) => {
      const tall = (loud / loudest) * (high - 4);
      if (tall > 0) context.fillRect(x, (high - tall) / 2, 1, Math.max(1, tall));
    });
  }, [columns, peaks.data]);
  if (peaks.isError) return <span className="px-2 text-fault">{peaks.error.message}</span>;
  return (
    <canvas
      ref={canvas}
      width={Math.max(1, Math.round(width))}
      height={SOUND_HEIGHT - 1}
      className={`pointer-events-none block ${sound.muted ? 'text-ink-3' : 'text-ink-2'}`}
    />
  );
}
