import { changeSound, laySound } from '@keen-ridge/core/edits/shot';
import type { Sound } from '@keen-ridge/core/scene/sound';
import { useEffect, useRef, useState } from 'react';
import { uploadSound } from '../../api/sound.ts';
import { layUnder } from '../../edits/sound-edits.ts';
import { tellFault } from '../../edits/while-told.ts';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatSeconds } from '../../ui/format.ts';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

/** The sound that the shot is timed by: brought in, where it begins, how loud, taken away. */
export function SoundPopover() {
  const session = useSession();
  const sound = useSessionState((state) => state.scene.sound ?? null);
  const { reading, choose } = useBringIn(session);
  return (
    <Popover label={sound ? say.sound : say.layASound}>
      {sound ? (
        <SoundFields session={session} sound={sound} />
      ) : (
        <p className="text-ink-2">{say.soundMeans}</p>
      )}
      <div className="mt-3 flex flex-wrap gap-1.5">
        <Button onClick={choose} disabled={reading}>
          {reading ? say.listening : sound ? say.anotherFile : say.chooseAFile}
        </Button>
        {sound && (
          <Button
            tone="danger"
            onClick={() => session.commit('set-sound', sound.name, laySound(session.state.scene, null))}
          >
            {say.takeItAway}
          </Button>
        )}
      </div>
    </Popover>
  );
}

function SoundFields({ session, sound }: { session: Session; sound: Sound }) {
  const change = (part: Parameters<typeof changeSound>[1]) =>
    session.commit('set-sound', sound.name, changeSound(session.state.scene, part));
  return (
    <>
      <p className="max-w-64 truncate font-semibold" title={sound.name}>
        {sound.name}
      </p>
      <p className="num text-ink-2">{formatSeconds(sound.durationSeconds)}</p>
      <div className="mt-2 grid grid-cols-2 gap-2.5">
        <NumberField
          label={say.beginsAt}
          unit="f"
          value={sound.startFrame}
          onCommit={(startFrame) => change({ startFrame })}
        />
        <NumberField
          label={say.volume}
          unit="%"
          min={0}
          max={100}
          value={Math.round(sound.volume * 100)}
          onCommit={(percent) => change({ volume: percent / 100 })}
        />
      </div>
      <div className="mt-2">
        <Button on={sound.muted} onClick={() => change({ muted: !sound.muted })}>
          {say.mute}
        </Button>
      </div>
    </>
  );
}

/** Chooses a file and lays it under the shot; what is still read when the strip is left is dropped. */
function useBringIn(session: Session): { readonly reading: boolean; readonly choose: () => void } {
  const [reading, setReading] = useState(false);
  const gone = useRef<AbortController | null>(null);
  useEffect(() => () => gone.current?.abort(), []);
  const bringIn = async (file: File) => {
    const abort = new AbortController();
    gone.current = abort;
    setReading(true);
    try {
      layUnder(session, await uploadSound(file, abort.signal));
    } catch (error) {
      if (!abort.signal.aborted) tellFault(error);
    } finally {
      if (!abort.signal.aborted) setReading(false);
    }
  };
  const choose = () => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = '.wav,.mp3,.ogg,.oga,.flac,audio/*';
    input.onchange = () => {
      const [file] = input.files ?? [];
      if (file) void bringIn(file);
    };
    input.click();
  };
  return { reading, choose };
}
