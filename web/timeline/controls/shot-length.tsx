import {
  holdEnds,
  scaleShotLength,
  setFrameSize,
  setRate,
  setRateKeepingSeconds,
  setShotLength,
} from '@keen-ridge/core/edits/shot';
import { LIMITS } from '@keen-ridge/core/scene';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { parseRational, rationalText, rationalToNumber } from '@keen-ridge/core/units';
import { useState } from 'react';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { formatSeconds } from '../../ui/format.ts';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

const LENGTH_WAYS = ['keep', 'scale'] as const;
const LENGTH_WORDS = { keep: say.keysStay, scale: say.keysStretchWithIt } as const;
const RATE_WAYS = ['frames', 'seconds'] as const;
const RATE_WORDS = { frames: say.framesStay, seconds: say.secondsStay } as const;

/** Length, rate and frame size of the shot, what follows when they change, and rests at its ends. */
export function ShotLength() {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const { lengthFrames, rate, frame } = scene;
  const [lengthWay, setLengthWay] = useState<(typeof LENGTH_WAYS)[number]>('keep');
  const [rateWay, setRateWay] = useState<(typeof RATE_WAYS)[number]>('frames');
  const [held, setHeld] = useState(12);
  const hold = (before: number, after: number) => {
    session.commit('hold-ends', 'the shot', holdEnds(session.state.scene, before, after));
    if (before > 0) session.goTo(session.state.frame + before);
  };
  const words = `${lengthFrames} f · ${formatSeconds(secondsOfFrames(lengthFrames, rate))} · ${rationalText(rate)}`;
  const resize = (widthPx: number, heightPx: number) =>
    session.commit(
      'set-frame-size',
      'the shot',
      setFrameSize(session.state.scene, Math.round(widthPx), Math.round(heightPx)),
    );
  return (
    <Popover label={words} wide>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label={say.length}
          unit="f"
          value={lengthFrames}
          {...LIMITS.lengthFrames}
          context={{ framesPerSecond: rationalToNumber(rate) }}
          onCommit={(value) => {
            const change = lengthWay === 'keep' ? setShotLength : scaleShotLength;
            const action = lengthWay === 'keep' ? 'set-length' : 'scale-length';
            session.commit(action, 'the shot', change(session.state.scene, Math.round(value)));
            session.goTo(session.state.frame);
          }}
        />
        <RateField key={rationalText(rate)} keepSeconds={rateWay === 'seconds'} />
        <Choice
          label={say.whenTheLengthChanges}
          hideLabel
          options={LENGTH_WAYS}
          words={LENGTH_WORDS}
          value={lengthWay}
          onChange={setLengthWay}
        />
        <Choice
          label={say.whenTheRateChanges}
          hideLabel
          options={RATE_WAYS}
          words={RATE_WORDS}
          value={rateWay}
          onChange={setRateWay}
        />
        <NumberField
          label={say.width}
          unit="px"
          value={frame.widthPx}
          {...LIMITS.framePx}
          onCommit={(value) => resize(value, frame.heightPx)}
        />
        <NumberField
          label={say.height}
          unit="px"
          value={frame.heightPx}
          {...LIMITS.framePx}
          onCommit={(value) => resize(frame.widthPx, value)}
        />
      </div>
      <div className="mt-3 flex items-end gap-1.5 border-t border-rule-light pt-3">
        <NumberField
          className="w-20"
          label={say.restAdded}
          unit="f"
          min={1}
          max={LIMITS.lengthFrames.max}
          value={held}
          context={{ framesPerSecond: rationalToNumber(rate) }}
          onCommit={(value) => setHeld(Math.max(1, Math.round(value)))}
        />
        <Button title={say.theShotRestsBeforeIt} onClick={() => hold(held, 0)}>
          {say.before}
        </Button>
        <Button title={say.theShotRestsAfterIt} onClick={() => hold(0, held)}>
          {say.after}
        </Button>
      </div>
      <p className="mt-3 text-[12px] text-ink-2">{say.lengthsMayBeTypedIn}</p>
    </Popover>
  );
}

function RateField({ keepSeconds }: { keepSeconds: boolean }) {
  const session = useSession();
  const rate = useSessionState((state) => state.scene.rate);
  const [draft, setDraft] = useState(rationalText(rate));
  const [fault, setFault] = useState<string>();
  const finish = () => {
    const read = parseRational(draft);
    setFault(read.ok ? undefined : say.suchAsARate);
    if (!read.ok) return;
    const change = keepSeconds ? setRateKeepingSeconds : setRate;
    session.commit('set-rate', 'the shot', change(session.state.scene, read.value));
    session.goTo(session.state.frame);
  };
  return (
    <TextField
      label={say.rateFramesASecond}
      value={draft}
      fault={fault}
      style={{ height: 26 }}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => event.key === 'Enter' && finish()}
    />
  );
}
