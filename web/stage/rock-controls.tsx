import { ROCK_WAYS, type Rock, type RockWay } from '@keen-ridge/core/stage';
import { SlidersHorizontal } from 'lucide-react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { settingTrial } from '../ui/trial.ts';

const WORDS: Readonly<Record<RockWay, string>> = {
  across: 'E–W',
  down: 'N–S',
  truck: 'Truck',
  orbit: 'Orbit',
};

/** The switch of the test sway, and what it is like. */
export function RockControls() {
  const session = useSession();
  const rocking = useSessionState((state) => state.rock !== null);
  const rock = usePreferences((state) => state.rock);
  const change = (part: Partial<Rock>) => {
    const next = { ...rock, ...part };
    setPreferences({ rock: next });
    if (session.state.rock) session.setRock(next);
  };
  return (
    <>
      <Button
        on={rocking}
        title="Sways the camera to try the depths; leaves no key behind"
        onClick={() => {
          session.setPlaying(false);
          session.setRock(rocking ? null : rock);
        }}
      >
        Rock
      </Button>
      <Dock id="rock" label="Rock settings" icon={<SlidersHorizontal size={14} aria-hidden="true" />}>
        <Choice
          label="Way"
          options={ROCK_WAYS}
          words={WORDS}
          value={rock.way}
          onChange={(way) => change({ way })}
        />
        <div className="mt-3 grid grid-cols-2 gap-2">
          <NumberField
            label="Size, to each side"
            unit="%"
            decimals={1}
            min={0.1}
            max={100}
            value={rock.size * 100}
            trial={settingTrial(rock.size * 100, (value) => change({ size: value / 100 }))}
          />
          <NumberField
            label="Period"
            unit="s"
            decimals={1}
            step={0.1}
            min={0.5}
            max={60}
            value={rock.periodSeconds}
            trial={settingTrial(rock.periodSeconds, (periodSeconds) => change({ periodSeconds }))}
          />
        </div>
        <p className="mt-3 text-[12px] text-ink-2">
          Size in shares of the frame’s width on the datum. It stops when the shot plays or the camera is
          moved.
        </p>
      </Dock>
    </>
  );
}
