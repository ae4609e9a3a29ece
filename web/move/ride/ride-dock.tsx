import { planeOf } from '@keen-ridge/core/scene/records';
import { PLAY_SPEEDS, setPreferences, usePreferences } from '../../session/choices/preferences.ts';
import { useSessionState } from '../../session/use-session.ts';
import { SPEED_WORDS } from '../../timeline/controls/play-popover.tsx';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { moveWords as say } from '../../words/move.ts';
import { GESTURES } from './pen-gestures.ts';
import { useRideState, useSimulatedPen } from './use-ride.ts';

const SPEEDS = ['1', '0.5', '0.25'] as const;

/** Recording a move by hand while the shot plays. */
export function RideDock() {
  const settings = usePreferences((state) => state.ride);
  const { armed, riding } = useRideState();
  const selection = useSessionState((state) => state.selection);
  const scene = useSessionState((state) => state.scene);
  const replay = useSimulatedPen();
  const [id, other] = selection;
  const word = id && !other ? (planeOf(scene, id)?.name ?? 'the plane') : 'the camera';
  const set = (part: Partial<typeof settings>) => setPreferences({ ride: { ...settings, ...part } });
  return (
    <Dock id="ride" label={riding ? say.riding : say.ride} on={armed || riding}>
      <p className="mb-2">{say.theShotPlaysFromThe(word)}</p>
      <Button
        tone="strong"
        on={armed}
        disabled={riding}
        onClick={() => useRideState.setState({ armed: !armed })}
      >
        {armed ? say.waitingForYourDragCancel : say.rideWithTheNextDrag}
      </Button>
      <div className="mt-3">
        <Choice
          label={say.theShotPlaysAt}
          options={SPEEDS}
          words={SPEED_WORDS}
          value={String(settings.speed) as (typeof SPEEDS)[number]}
          onChange={(speed) => {
            const next = PLAY_SPEEDS.find((s) => String(s) === speed);
            if (next) set({ speed: next });
          }}
        />
      </div>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <NumberField
          label={say.smoothing}
          unit="s"
          decimals={2}
          step={0.02}
          min={0}
          max={2}
          value={settings.smoothSeconds}
          onCommit={(smoothSeconds) => set({ smoothSeconds })}
        />
        <NumberField
          label={say.thinKeysToWithin}
          unit="px"
          decimals={2}
          step={0.25}
          min={0.05}
          max={50}
          value={settings.tolerancePx}
          onCommit={(tolerancePx) => set({ tolerancePx })}
        />
      </div>
      <div className="mt-3 border-t border-rule-light pt-3">
        <p className="mb-1.5 text-ink-2">{say.noPenAtHandThe}</p>
        <div className="flex flex-wrap gap-1">
          {GESTURES.map((gesture) => (
            <Button key={gesture.name} disabled={riding} onClick={() => replay(gesture)}>
              {gesture.name}
            </Button>
          ))}
        </div>
      </div>
    </Dock>
  );
}
