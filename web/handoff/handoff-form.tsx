import { patternWords } from '@keen-ridge/core/contract';
import { HANDOFF_FORMATS, HANDOFF_KINDS, type HandoffItem, rateWords } from '@keen-ridge/core/export';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { RadioGroup } from 'radix-ui';
import { type KeyboardEvent, useId, useState } from 'react';
import { useTakes } from '../api/takes.ts';
import { askHandoff, useHandoffChange } from '../api/use-handoffs.ts';
import { type HandoffWish, handoffRequest, wholeShot } from '../session/choices/handoff-wish.ts';
import { type HandoffSettings, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { playRange, useShotView } from '../session/choices/shot-view.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { counted, formatNumber, formatSeconds } from '../ui/format.ts';
import { handoffWords as say } from '../words/handoff.ts';
import { FramesSection } from './frames-section.tsx';
import { handoffOutlook } from './handoff-request.ts';
import { KIND_WORDS } from './kind-words.ts';
import { PictureSection } from './picture-section.tsx';
import { Presets } from './presets.tsx';

const keep = (part: Partial<HandoffSettings>) =>
  setPreferences({ handoff: { ...usePreferences.getState().handoff, ...part } });

/** Everything that can be said of a hand-off before it begins, with its limits and names looked at at once. */
export function HandoffForm({ filmReady }: { filmReady: boolean }) {
  const { shot } = useSession();
  const scene = useSessionState((state) => state.scene);
  const settings = usePreferences((state) => state.handoff);
  const [{ range }] = useShotView();
  const inOut = playRange(range, scene.lengthFrames);
  const [wish, setWish] = useState<HandoffWish>({
    ...wholeShot(scene),
    frames: range ? 'in-out' : 'whole',
  });
  const change = (part: Partial<HandoffWish>) => setWish((was) => ({ ...was, ...part }));
  const takes = useTakes(shot.id);
  const keptTakes = useId();
  const start = useHandoffChange(shot.id, askHandoff(shot.id));
  const { kind } = settings;
  const format = HANDOFF_FORMATS[kind];
  const isFrames = format.made === 'frames';
  const selection = useSessionState((state) => state.selection);
  const request = handoffRequest(settings, { ...wish, chosen: selection }, scene, inOut);
  const { size, items, patternFault, fault } = handoffOutlook(request, scene, shot.name);
  const needsTool = format.made === 'film' && !filmReady;
  const unsaved = useUnsavedWords();
  const blocked = unsaved ?? fault;
  const rateNote = rateWords(kind, scene.rate);
  const { firstFrame, lastFrame } = request;

  return (
    <form
      aria-label={say.newHandOff}
      onSubmit={(event) => {
        event.preventDefault();
        start.mutate(request);
      }}
    >
      <h1 className="text-[14px] font-semibold">{say.handOff}</h1>
      <Presets />
      <RadioGroup.Root
        value={kind}
        aria-label={say.whatToHandOff}
        className="mt-2.5 grid grid-cols-2 gap-1.5"
        onValueChange={(value) => keep({ kind: HANDOFF_KINDS.find((known) => known === value) ?? 'png' })}
      >
        {HANDOFF_KINDS.map((value) => (
          <RadioGroup.Item
            key={value}
            value={value}
            className="cursor-pointer rounded-[3px] border border-rule bg-raised px-2.5 py-1.5 text-left data-[state=checked]:border-select data-[state=checked]:bg-select-wash"
          >
            <span className="block font-semibold">{KIND_WORDS[value].word}</span>
            <span className="narrow block text-[12px] text-ink-2">{KIND_WORDS[value].means}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>

      <FramesSection
        scene={scene}
        inOut={range && inOut}
        firstFrame={firstFrame}
        lastFrame={lastFrame}
        frames={wish.frames}
        onWish={change}
      />
      <PictureSection />
      {isFrames && (
        <div className="mt-3 grid grid-cols-[1fr_120px] items-end gap-2.5">
          <TextField
            label={say.namesOfTheFiles}
            className="num h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
            spellCheck={false}
            maxLength={200}
            value={request.names.pattern}
            fault={patternFault ? patternWords(patternFault) : undefined}
            onChange={(event) => change({ pattern: event.target.value === '' ? null : event.target.value })}
            onKeyDown={settleOnEnter}
          />
          <NumberField
            label={say.countingFrom}
            unit=""
            min={0}
            max={9_999_999}
            value={request.names.startAt ?? firstFrame - settings.handles}
            onCommit={(v) => change({ startAt: Math.round(v) })}
          />
        </div>
      )}
      <div className="mt-3 flex items-end gap-2.5">
        <div className="flex-1">
          <TextField
            label={say.take}
            className="h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
            placeholder={say.none}
            maxLength={200}
            list={keptTakes}
            value={wish.take}
            onChange={(event) => change({ take: event.target.value })}
            onKeyDown={settleOnEnter}
          />
          <datalist id={keptTakes}>
            {[...new Set(takes.data?.takes.map(({ name }) => name))].map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </div>
        <Button on={settings.burnIn} onClick={() => keep({ burnIn: !settings.burnIn })}>
          {say.burnInShotTakeAnd}
        </Button>
      </div>
      {isFrames && <Names items={items} />}
      {/* What it comes to, and the button, stay in sight however much there is to choose. */}
      <div className="sticky -bottom-4 -mx-5 -mb-4 mt-3 border-t border-rule-light bg-panel px-5 pt-2 pb-4">
        <p className="num leading-relaxed text-ink-2">
          {counted(items.length, 'picture')} ·{' '}
          {formatSeconds(secondsOfFrames(lastFrame - firstFrame + 1, scene.rate))}
          {say.at}
          {rationalText(scene.rate)} · {formatNumber(size.widthPx)} × {formatNumber(size.heightPx)} px
        </p>
        {rateNote && <p className="mt-2 text-ink-2">{rateNote}</p>}
        {needsTool && (
          <p role="alert" className="mt-2 text-fault">
            {say.filmsNeedFfmpegWhichIs}
          </p>
        )}
        {start.isError && (
          <p role="alert" className="mt-2 text-fault">
            {start.error.message}
          </p>
        )}
        {blocked && <p className="mt-2 text-ink-2">{blocked}</p>}
        <Button
          type="submit"
          tone="strong"
          className="mt-2 h-8 w-full"
          disabled={blocked !== null || start.isPending || needsTool}
        >
          {say.handOffCounted(counted(items.length, 'frame'))}
        </Button>
      </div>
    </form>
  );
}

/** Why a hand-off would not be of the shot as it is seen; null where it would. */
function useUnsavedWords(): string | null {
  const saveState = useSessionState((state) => state.saveState);
  const saveFault = useSessionState((state) => state.saveFault);
  if (saveState === 'saved') return null;
  if (saveState === 'offline') return say.notSavedYet(saveFault ?? say.whoSavesDoesNotAnswer);
  return say.waitingUntilSaved;
}

/** Enter settles a text; it must not send the form that the field stands in. */
const settleOnEnter = (event: KeyboardEvent) => {
  if (event.key === 'Enter') event.preventDefault();
};

/** The first and last name that will come of the pattern. */
function Names({ items }: { items: readonly HandoffItem[] }) {
  const [first, last] = [items[0], items.at(-1)];
  if (!first || !last) return null;
  return (
    <p className="num mt-2 truncate text-ink-2" title={say.namePngNamePng(first.name, last.name)}>
      {first.name}
      {say.png}
      {items.length > 1 && say.namePng(last.name)}
    </p>
  );
}
