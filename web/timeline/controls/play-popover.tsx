import { canDrop } from '@keen-ridge/core/timing';
import { useStore } from 'zustand';
import {
  PLAY_MODES,
  PLAY_SPEEDS,
  RULER_LABELS,
  setPreferences,
  usePreferences,
} from '../../session/choices/preferences.ts';
import { playRange, useShotView } from '../../session/choices/shot-view.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

const MODE_WORDS = { 'real-time': say.inRealTime, every: say.everyFrame } as const;
const SPEEDS = ['1', '0.5', '0.25'] as const;
export const SPEED_WORDS = { '1': '1 ×', '0.5': '½ ×', '0.25': '¼ ×' } as const;
const LABEL_WORDS = { seconds: say.seconds, timecode: say.timecode } as const;

/** How the shot plays, which part of it, and rendering it ahead. */
export function PlayPopover() {
  const session = useSession();
  const { playMode, playSpeed, pingPong, rulerLabels } = usePreferences();
  const [view, setView] = useShotView();
  const { lengthFrames, rate } = useSessionState((state) => state.scene);
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const range = playRange(view.range, lengthFrames);
  const here = session.state.frame;
  const word =
    playMode === 'every' ? 'Every frame' : SPEED_WORDS[String(playSpeed) as keyof typeof SPEED_WORDS];
  const frames = selectedKeys.map((key) => key.frame);
  return (
    <Popover label={`${word}${pingPong ? ' ⇄' : ''}`}>
      <Choice
        label={say.play}
        options={PLAY_MODES}
        words={MODE_WORDS}
        value={playMode}
        onChange={(mode) => setPreferences({ playMode: mode })}
      />
      <div className="mt-3">
        <Choice
          label={say.rateOfPlay}
          options={SPEEDS}
          words={SPEED_WORDS}
          value={String(playSpeed) as (typeof SPEEDS)[number]}
          onChange={(speed) => {
            const next = PLAY_SPEEDS.find((s) => String(s) === speed);
            if (next) setPreferences({ playSpeed: next });
          }}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-1">
        <Button on={pingPong} onClick={() => setPreferences({ pingPong: !pingPong })}>
          {say.thereAndBack}
        </Button>
        <Button onClick={() => setView({ range: { start: Math.min(here, range.end - 1), end: range.end } })}>
          {say.inHere}
        </Button>
        <Button onClick={() => setView({ range: { start: Math.min(range.start, here), end: here + 1 } })}>
          {say.outHere}
        </Button>
        <Button
          disabled={frames.length < 2}
          onClick={() => setView({ range: { start: Math.min(...frames), end: Math.max(...frames) + 1 } })}
        >
          {say.chosenKeys}
        </Button>
        <Button disabled={!view.range} onClick={() => setView({ range: null })}>
          {say.all}
        </Button>
      </div>
      <PrerollControl range={range} />
      <div className="mt-3">
        <Choice
          label={canDrop(rate) ? say.rulerTimecodeDropsFramesAt : say.ruler}
          options={RULER_LABELS}
          words={LABEL_WORDS}
          value={rulerLabels}
          onChange={(labels) => setPreferences({ rulerLabels: labels })}
        />
      </div>
    </Popover>
  );
}

/** Renders the range ahead, so that a heavy shot plays in real time; the bar under the ruler shows what is there. */
function PrerollControl({ range }: { range: { start: number; end: number } }) {
  const session = useSession();
  const { frames, wanted } = useStore(session.preroll);
  const all = range.end - range.start;
  const done = [...frames].filter((frame) => frame >= range.start && frame < range.end).length;
  return (
    <div className="mt-3 border-t border-rule-light pt-3">
      <div className="flex items-center gap-2">
        <Button
          on={wanted !== null && done < all}
          disabled={done >= all}
          onClick={() => session.preroll.setState({ wanted: wanted ? null : range })}
        >
          {wanted && done < all ? say.stop : say.renderAhead}
        </Button>
        <span className="num text-ink-2" role="status">
          {done} / {all} f
        </span>
      </div>
      <progress className="bar mt-2 h-1.5 w-full" max={all} value={done} aria-label={say.renderedAhead} />
    </div>
  );
}
