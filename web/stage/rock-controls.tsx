import { ROCK_WAYS, type Rock, type RockWay } from '@keen-ridge/core/stage';
import { SlidersHorizontal } from 'lucide-react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { settingTrial } from '../ui/trial.ts';
import { stageWords as say } from '../words/stage.ts';

const WORDS: Readonly<Record<RockWay, string>> = {
  across: 'E–W',
  down: 'N–S',
  truck: say.truck,
  orbit: say.orbit,
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
        title={say.swaysTheCameraToTry}
        onClick={() => {
          session.setPlaying(false);
          session.setRock(rocking ? null : rock);
        }}
      >
        {say.rock}
      </Button>
      <Dock id="rock" label={say.rockSettings} icon={<SlidersHorizontal size={14} aria-hidden="true" />}>
        <Choice
          label={say.way}
          options={ROCK_WAYS}
          words={WORDS}
          value={rock.way}
          onChange={(way) => change({ way })}
        />
        <div className="mt-3 grid grid-cols-2 gap-2">
          <NumberField
            label={say.sizeToEachSide}
            unit="%"
            decimals={1}
            min={0.1}
            max={100}
            value={rock.size * 100}
            trial={settingTrial(rock.size * 100, (value) => change({ size: value / 100 }))}
          />
          <NumberField
            label={say.period}
            unit="s"
            decimals={1}
            step={0.1}
            min={0.5}
            max={60}
            value={rock.periodSeconds}
            trial={settingTrial(rock.periodSeconds, (periodSeconds) => change({ periodSeconds }))}
          />
        </div>
        <p className="mt-3 text-[12px] text-ink-2">{say.sizeInSharesOfThe}</p>
      </Dock>
    </>
  );
}
