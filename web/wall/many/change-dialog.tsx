import type { ManyChange } from '@keen-ridge/core/contract/many';
import { FRAME_PRESETS, type ShotCard } from '@keen-ridge/core/contract/wall';
import { LIMITS } from '@keen-ridge/core/scene';
import { COMMON_RATES } from '@keen-ridge/core/timing';
import { parseRational, rationalText } from '@keen-ridge/core/units';
import { useState } from 'react';
import { changeMany } from '../../api/many.ts';
import { useWallChange } from '../../api/queries.ts';
import { sayChanged } from '../../edits/said-changed.ts';
import { whileTold } from '../../edits/while-told.ts';
import { useAuthor } from '../../session/author.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog } from '../../ui/dialog.tsx';
import { Checkbox } from '../../ui/fields/checkbox.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Select } from '../../ui/fields/select.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { counted } from '../../ui/format.ts';
import { wallWords as say } from '../../words/wall.ts';

const KEEPS = ['seconds', 'frames'] as const;
const KEEP_WORDS = { seconds: say.keepSeconds, frames: say.keepFrames } as const;
const PRESET_NAMES: readonly string[] = FRAME_PRESETS.map(({ name }) => name);
const PRESET_WORDS = Object.fromEntries(PRESET_NAMES.map((name) => [name, name]));

/** Another rate or size for several shots: each change is an edit of its own in each shot, undone there. */
export function ChangeDialog({ shots, onClose }: { shots: readonly ShotCard[]; onClose: () => void }) {
  const author = useAuthor();
  const change = useWallChange(async (changes: readonly ManyChange[]) => {
    const shotIds = shots.map(({ id }) => id);
    for (const one of changes) {
      const done = await whileTold(say.changingThem(counted(shots.length, 'shot')), (signal) =>
        changeMany({ shotIds, author, change: one }, signal),
      );
      if (!done) return;
      sayChanged(done);
    }
  });
  const [first] = shots;
  const [changesRate, setChangesRate] = useState(false);
  const [changesSize, setChangesSize] = useState(false);
  const [rateText, setRateText] = useState(first ? rationalText(first.rate) : '24');
  const [keep, setKeep] = useState<(typeof KEEPS)[number]>('seconds');
  const [size, setSize] = useState(first?.frame ?? { widthPx: 1920, heightPx: 1080 });
  const rate = parseRational(rateText);
  const preset = FRAME_PRESETS.find((p) => p.widthPx === size.widthPx && p.heightPx === size.heightPx);
  const submit = () => {
    const changes: ManyChange[] = [];
    if (changesRate && rate.ok)
      changes.push({ kind: 'rate', rate: { num: rate.value.num, den: rate.value.den }, keep });
    if (changesSize) changes.push({ kind: 'size', ...size });
    onClose();
    change.mutate(changes);
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={say.changeShots(counted(shots.length, 'shot'))}
      description={say.changeMeans}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <div>
          <Checkbox checked={changesRate} onChange={setChangesRate}>
            {say.anotherRate}
          </Checkbox>
          {changesRate && (
            <div className="mt-1.5 grid grid-cols-2 items-end gap-3">
              <TextField
                label={say.framesASecond}
                list="rates-for-many"
                value={rateText}
                fault={rate.ok ? undefined : say.noRate}
                onChange={(event) => setRateText(event.target.value)}
              />
              <datalist id="rates-for-many">
                {COMMON_RATES.map((one) => (
                  <option key={rationalText(one)} value={rationalText(one)} />
                ))}
              </datalist>
              <div>
                <Choice
                  label={say.whatIsKept}
                  options={KEEPS}
                  words={KEEP_WORDS}
                  value={keep}
                  onChange={setKeep}
                />
              </div>
            </div>
          )}
        </div>
        <div>
          <Checkbox checked={changesSize} onChange={setChangesSize}>
            {say.anotherSize}
          </Checkbox>
          {changesSize && (
            <div className="mt-1.5 grid grid-cols-[1.4fr_1fr_1fr] items-end gap-3">
              <Select
                label={say.frameSize}
                options={PRESET_NAMES}
                words={PRESET_WORDS}
                value={preset?.name ?? ''}
                placeholder={say.ownSize}
                onChange={(name) => {
                  const found = FRAME_PRESETS.find((one) => one.name === name);
                  if (found) setSize({ widthPx: found.widthPx, heightPx: found.heightPx });
                }}
              />
              <NumberField
                label={say.width}
                unit="px"
                value={size.widthPx}
                {...LIMITS.framePx}
                onCommit={(v) => setSize({ ...size, widthPx: Math.round(v) })}
              />
              <NumberField
                label={say.height}
                unit="px"
                value={size.heightPx}
                {...LIMITS.framePx}
                onCommit={(v) => setSize({ ...size, heightPx: Math.round(v) })}
              />
            </div>
          )}
        </div>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say.cancel}</Button>
          <Button
            type="submit"
            tone="strong"
            disabled={(!changesRate && !changesSize) || (changesRate && !rate.ok)}
          >
            {say.changeThem}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
