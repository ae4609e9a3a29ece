import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { Popover } from '../ui/popover.tsx';

/** What counts as too much; kept for this browser. */
export function LimitsPopover() {
  const limits = usePreferences((state) => state.surveyLimits);
  const set = (part: Partial<typeof limits>) => setPreferences({ surveyLimits: { ...limits, ...part } });
  return (
    <Popover label="What counts as wrong …">
      <div className="grid w-64 grid-cols-2 gap-3">
        <NumberField
          label="Gap at an edge over"
          unit="px"
          decimals={1}
          min={0}
          max={1000}
          value={limits.gapPx}
          onCommit={(gapPx) => set({ gapPx })}
        />
        <NumberField
          label="Film px a painted px over"
          unit="×"
          decimals={2}
          step={0.05}
          min={0.1}
          max={10}
          value={limits.softness}
          onCommit={(softness) => set({ softness })}
        />
        <NumberField
          label="Frame crossed in under"
          unit="s"
          decimals={1}
          min={0.1}
          max={100}
          value={limits.crossingSeconds}
          onCommit={(crossingSeconds) => set({ crossingSeconds })}
        />
        <NumberField
          label="Planes slide apart over"
          unit="px"
          decimals={1}
          min={0}
          max={10_000}
          value={limits.slipPx}
          onCommit={(slipPx) => set({ slipPx })}
        />
      </div>
      <Button className="mt-3" onClick={() => setPreferences({ surveyLimits: USUAL_LIMITS })}>
        As usual
      </Button>
    </Popover>
  );
}
