import { useState } from 'react';
import { GHOSTS_OF, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { moveWords as say } from '../words/move.ts';

const OF_WORDS = { nothing: say.off, planes: say.chosenPlanes, frame: say.wholeFrame } as const;

/** Earlier and later frames laid over the picture, and another frame beside it along a line. */
export function GhostsDock() {
  const session = useSession();
  const ghosts = usePreferences((state) => state.ghosts);
  const wipe = useSessionState((state) => state.wipe);
  const lengthFrames = useSessionState((state) => state.scene.lengthFrames);
  const [other, setOther] = useState(1);
  const set = (part: Partial<typeof ghosts>) => setPreferences({ ghosts: { ...ghosts, ...part } });
  const whole = (value: number) => Math.round(value);
  return (
    <Dock id="ghosts" label={say.ghosts} on={ghosts.of !== 'nothing' || wipe?.scene === null}>
      <Choice
        label={say.layOverThePicture}
        options={GHOSTS_OF}
        words={OF_WORDS}
        value={ghosts.of}
        onChange={(of) => set({ of })}
      />
      <div className="mt-3 grid grid-cols-3 gap-2">
        <NumberField
          label={say.earlier}
          unit=""
          min={0}
          max={5}
          value={ghosts.before}
          onCommit={(v) => set({ before: whole(v) })}
        />
        <NumberField
          label={say.later}
          unit=""
          min={0}
          max={5}
          value={ghosts.after}
          onCommit={(v) => set({ after: whole(v) })}
        />
        <NumberField
          label={say.apart}
          unit="f"
          min={1}
          max={1000}
          value={ghosts.step}
          onCommit={(v) => set({ step: whole(v) })}
        />
      </div>
      <div className="mt-3 flex items-end gap-2 border-t border-rule-light pt-3">
        <NumberField
          className="w-24"
          label={say.wipeToFrame}
          unit="f"
          min={1}
          max={lengthFrames}
          value={Math.min(other, lengthFrames)}
          onCommit={(v) => setOther(whole(v))}
        />
        <Button
          onClick={() => {
            const frame = Math.min(other, lengthFrames);
            session.setWipe({ word: `frame ${frame}`, scene: null, frame, at: 0.5 });
          }}
        >
          {say.compare}
        </Button>
        <Button disabled={!wipe} onClick={() => session.setWipe(null)}>
          {say.endTheWipe}
        </Button>
      </div>
    </Dock>
  );
}
