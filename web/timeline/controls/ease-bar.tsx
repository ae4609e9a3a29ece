import { easeSelected } from '@keen-ridge/core/edits/keys';
import { channelAt, channelRef, mayOvershoot } from '@keen-ridge/core/staging';
import {
  EASE_PRESET_NAMES,
  EASE_PRESETS,
  EASE_WAYS,
  type Ease,
  type EasePresetName,
  type EaseWay,
  easeOfStrength,
  easePresetOf,
  strengthOf,
} from '@keen-ridge/core/timing';
import { channelTitle } from '../../edits/channel-words.ts';
import { keySelection } from '../../session/choices/key-selection.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Popover } from '../../ui/popover.tsx';
import { setOnce, trialOf } from '../../ui/trial.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { EaseEditor } from './ease-editor.tsx';
import { EaseShelf } from './ease-shelf.tsx';

const EASE_WORDS: Readonly<Record<EasePresetName, { word: string; means: string }>> = {
  linear: { word: say.even, means: say.oneSpeedAllAlong },
  hold: { word: say.hold, means: say.staysAndJumpsAtThe },
  in: { word: say.inIt, means: say.startsSlowly },
  out: { word: say.out, means: say.stopsSlowly },
  'in-out': { word: say.inOut, means: say.startsAndStopsSlowly },
};

interface ChosenSpan extends SelectedKey {
  readonly ease: Ease;
  readonly until: number;
}

/** The spans that leave the chosen keys. */
function useChosenSpans(): ChosenSpan[] {
  const scene = useSessionState((state) => state.preview ?? state.scene);
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  return selectedKeys.flatMap(({ channel, frame }) => {
    const keys = channelAt(scene, channelRef(channel))?.keys ?? [];
    const index = keys.findIndex((key) => key.frame === frame);
    const [from, to] = [keys[index], keys[index + 1]];
    return from && to ? [{ channel, frame, ease: from.ease, until: to.frame }] : [];
  });
}

/** The ease of the spans that leave the chosen keys: kept ones, their strength, a curve of one's own, the shelf. */
export function EaseBar() {
  const session = useSession();
  const spans = useChosenSpans();
  const scene = useSessionState((state) => state.scene);
  const [first] = spans;
  const eased =
    first && spans.length === 1
      ? `${channelTitle(scene, channelRef(first.channel))} ${first.frame} → ${first.until}`
      : say.countedSpans(spans.length);
  const what = first ? say.easeOf(eased) : say.easeChooseASpan;
  const trial = sceneTrial<Ease>(session, 'set-ease', eased, (kept, ease) =>
    easeSelected(kept, keySelection(spans), ease),
  );
  const apply = (ease: Ease) => setOnce(trial, ease);
  const same = first && spans.every(({ ease }) => JSON.stringify(ease) === JSON.stringify(first.ease));
  const shared = same ? first.ease : null;
  const presets = new Set(spans.map(({ ease }) => easePresetOf(ease)));
  const shaped = shared && strengthOf(shared);
  const overshoot = spans.every(({ channel }) => mayOvershoot(channelRef(channel).name));
  const way: EaseWay = shaped?.way ?? 'in-out';
  return (
    <fieldset className="flex min-w-0 items-center gap-1.5 @max-xl:contents" disabled={spans.length === 0}>
      <legend className="sr-only">{say.ease}</legend>
      <span className="narrow min-w-0 truncate text-ink-2 @max-xl:hidden">{what}</span>
      {EASE_PRESET_NAMES.map((name) => (
        <Button
          key={name}
          on={presets.size === 1 && presets.has(name)}
          title={EASE_WORDS[name].means}
          disabled={spans.length === 0}
          onClick={() => apply(EASE_PRESETS[name])}
        >
          {EASE_WORDS[name].word}
        </Button>
      ))}
      <Popover label={say.shape} wide disabled={spans.length === 0}>
        {first && (
          <>
            <div className="mb-3 flex items-end gap-2">
              <NumberField
                className="w-28"
                label={say.strength}
                unit="%"
                decimals={0}
                min={0}
                max={100}
                value={shaped ? shaped.strength * 100 : null}
                trial={trialOf(trial, (value: number) => easeOfStrength(way, value / 100))}
              />
              {EASE_WAYS.map((name) => (
                <Button
                  key={name}
                  on={shaped?.way === name}
                  onClick={() => apply(easeOfStrength(name, shaped?.strength ?? 0.42))}
                >
                  {EASE_WORDS[name].word}
                </Button>
              ))}
            </div>
            <EaseEditor ease={shared ?? EASE_PRESETS['in-out']} overshoot={overshoot} trial={trial} />
          </>
        )}
      </Popover>
      <EaseShelf ease={shared} onApply={apply} disabled={spans.length === 0} />
    </fieldset>
  );
}
