import { LIMITS, setFrameSize, setRate, setShotLength } from '@keen-ridge/core/document';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { parseRational, rationalText, rationalToNumber } from '@keen-ridge/core/units';
import { useState } from 'react';
import { useSession, useSessionState } from '../state/use-session.ts';
import { formatSeconds } from '../ui/format.ts';
import { NumberField } from '../ui/number-field.tsx';
import { Popover } from '../ui/popover.tsx';
import { TextField } from '../ui/text-field.tsx';

/** Length, rate and frame size of the shot. Keys stay on their frames. */
export function ShotLength() {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const { lengthFrames, rate, frame } = scene;
  const words = `${lengthFrames} f · ${formatSeconds(secondsOfFrames(lengthFrames, rate))} · ${rationalText(rate)}`;
  const resize = (widthPx: number, heightPx: number) =>
    session.commit(
      'set-frame-size',
      'the shot',
      setFrameSize(session.state.scene, Math.round(widthPx), Math.round(heightPx)),
    );
  return (
    <Popover label={words}>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Length"
          unit="f"
          value={lengthFrames}
          {...LIMITS.lengthFrames}
          context={{ framesPerSecond: rationalToNumber(rate) }}
          onCommit={(value) => {
            session.commit('set-length', 'the shot', setShotLength(session.state.scene, Math.round(value)));
            session.goTo(session.state.frame);
          }}
        />
        <RateField key={rationalText(rate)} />
        <NumberField
          label="Width"
          unit="px"
          value={frame.widthPx}
          {...LIMITS.framePx}
          onCommit={(value) => resize(value, frame.heightPx)}
        />
        <NumberField
          label="Height"
          unit="px"
          value={frame.heightPx}
          {...LIMITS.framePx}
          onCommit={(value) => resize(frame.widthPx, value)}
        />
      </div>
      <p className="mt-3 text-[12px] text-ink-2">
        Keys stay on their frames. Lengths may be typed in seconds: 5s.
      </p>
    </Popover>
  );
}

function RateField() {
  const session = useSession();
  const rate = useSessionState((state) => state.scene.rate);
  const [draft, setDraft] = useState(rationalText(rate));
  const [fault, setFault] = useState<string>();
  const finish = () => {
    const read = parseRational(draft);
    setFault(read.ok ? undefined : 'Such as 24 or 24000/1001.');
    if (read.ok) session.commit('set-rate', 'the shot', setRate(session.state.scene, read.value));
  };
  return (
    <TextField
      label="Rate, frames a second"
      value={draft}
      fault={fault}
      style={{ height: 26 }}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => event.key === 'Enter' && finish()}
    />
  );
}
