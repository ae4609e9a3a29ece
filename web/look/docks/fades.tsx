import { crossToLook, fadeIn, fadeOut } from '@keen-ridge/core/edits/look';
import { rationalToNumber } from '@keen-ridge/core/units';
import { useState } from 'react';
import { toast } from 'sonner';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { lookWords as say } from '../../words/look.ts';
import { usualFade } from '../use-look-commands.ts';

/** From black, to black, or over to the light of another frame: each one edit. */
export function Fades() {
  const session = useSession();
  const rate = useSessionState((state) => state.scene.rate);
  const lengthFrames = useSessionState((state) => state.scene.lengthFrames);
  const [frames, setFrames] = useState(() => usualFade(session));
  const [like, setLike] = useState(1);
  const fade = (change: typeof fadeIn) =>
    session.commit('fade', say.framesWord(frames), change(session.state.scene, frames));
  const cross = () => {
    const { scene, frame } = session.state;
    const crossed = crossToLook(scene, { like, at: frame, over: frames });
    if (crossed === scene) toast(say.itIsSoAlready);
    else session.commit('cross-look', `${like}`, crossed);
  };
  const whole = (set: (value: number) => void, most: number) => (value: number) =>
    set(Math.min(most, Math.max(1, Math.round(value))));
  return (
    <section aria-label={say.fades} className="mt-3 border-t border-rule-light pt-3">
      <h3 className="mb-1.5 font-semibold">{say.fades}</h3>
      <div className="flex items-end gap-1.5">
        <NumberField
          className="w-20"
          label={say.over}
          unit="f"
          min={1}
          max={lengthFrames}
          value={frames}
          context={{ framesPerSecond: rationalToNumber(rate) }}
          onCommit={whole(setFrames, lengthFrames)}
        />
        <Button title={say.fadeInMeans} onClick={() => fade(fadeIn)}>
          {say.fadeIn}
        </Button>
        <Button title={say.fadeOutMeans} onClick={() => fade(fadeOut)}>
          {say.fadeOut}
        </Button>
      </div>
      <div className="mt-1.5 flex items-end gap-1.5">
        <NumberField
          className="w-20"
          label={say.likeFrame}
          unit=""
          min={1}
          max={lengthFrames}
          value={like}
          onCommit={whole(setLike, lengthFrames)}
        />
        <Button title={say.crossMeans} onClick={cross}>
          {say.cross}
        </Button>
      </div>
    </section>
  );
}
