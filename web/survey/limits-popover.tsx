import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { useKeepSurveyLimits, useSurveyLimits } from '../api/survey.ts';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { Popover } from '../ui/popover.tsx';
import { surveyWords as say } from '../words/survey.ts';

/** What counts as too much in every shot of the production. */
export function LimitsPopover() {
  const { productionId, productionName } = useSession().shot;
  const { data: limits = USUAL_LIMITS } = useSurveyLimits(productionId);
  const keep = useKeepSurveyLimits(productionId);
  const set = (part: Partial<typeof limits>) => keep.mutate({ ...limits, ...part });
  return (
    <Popover label={say.whatCountsAsWrong}>
      <div className="grid w-64 grid-cols-2 gap-3">
        <NumberField
          label={say.gapAtAnEdgeOver}
          unit="px"
          decimals={1}
          min={0}
          max={1000}
          value={limits.gapPx}
          onCommit={(gapPx) => set({ gapPx })}
        />
        <NumberField
          label={say.filmPxAPaintedPx}
          unit="×"
          decimals={2}
          step={0.05}
          min={0.1}
          max={10}
          value={limits.softness}
          onCommit={(softness) => set({ softness })}
        />
        <NumberField
          label={say.frameCrossedInUnder}
          unit="s"
          decimals={1}
          min={0.1}
          max={100}
          value={limits.crossingSeconds}
          onCommit={(crossingSeconds) => set({ crossingSeconds })}
        />
        <NumberField
          label={say.planesSlideApartOver}
          unit="px"
          decimals={1}
          min={0}
          max={10_000}
          value={limits.slipPx}
          onCommit={(slipPx) => set({ slipPx })}
        />
      </div>
      <Button className="mt-3" onClick={() => keep.mutate(USUAL_LIMITS)}>
        {say.asUsual}
      </Button>
      <p className="mt-2 w-64 text-[12px] text-ink-2">{say.theyHoldForEveryShot(productionName)}</p>
      {keep.isError && (
        <p role="alert" className="mt-2 w-64 text-fault">
          {say.theyCouldNotBeKept(keep.error.message)}
        </p>
      )}
    </Popover>
  );
}
