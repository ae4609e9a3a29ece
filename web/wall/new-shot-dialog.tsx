import { FRAME_PRESETS, newShotSchema, type Production } from '@keen-ridge/core/contract/wall';
import { firstFault, LIMITS } from '@keen-ridge/core/scene';
import { COMMON_RATES, secondsOfFrames } from '@keen-ridge/core/timing';
import { parseRational, rationalText, rationalToNumber, reasonOf } from '@keen-ridge/core/units';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { makeShot, useWallChange } from '../api/queries.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { Select } from '../ui/fields/select.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { formatSeconds } from '../ui/format.ts';
import { wallWords as say } from '../words/wall.ts';

const PRESET_NAMES: readonly string[] = FRAME_PRESETS.map(({ name }) => name);
const PRESET_WORDS = Object.fromEntries(PRESET_NAMES.map((name) => [name, name]));

interface NewShotDialogProps {
  production: Pick<Production, 'id' | 'name'>;
  onClose: () => void;
}

export function NewShotDialog({ production, onClose }: NewShotDialogProps) {
  const navigate = useNavigate();
  const make = useWallChange(makeShot);
  const [name, setName] = useState('');
  const [size, setSize] = useState(usePreferences.getState().lastFrameSize);
  const [rateText, setRateText] = useState('24');
  const [lengthFrames, setLengthFrames] = useState(96);
  const [fault, setFault] = useState<string>();
  const rate = parseRational(rateText);

  const submit = async () => {
    if (name.trim() === '') return setFault(say.giveTheShotAName);
    if (!rate.ok) return setFault(say.theRateIsFramesASecond);
    const shot = newShotSchema.safeParse({
      name,
      ...size,
      rate: { num: rate.value.num, den: rate.value.den },
      lengthFrames,
    });
    if (!shot.success) return setFault(firstFault(shot.error));
    try {
      const { id } = await make.mutateAsync({ productionId: production.id, shot: shot.data });
      setPreferences({ lastFrameSize: size });
      await navigate(`/shots/${id}/art`);
    } catch (error) {
      setFault(reasonOf(error));
    }
  };
  const preset =
    FRAME_PRESETS.find((p) => p.widthPx === size.widthPx && p.heightPx === size.heightPx)?.name ?? '';

  return (
    <Dialog open onClose={onClose} title={say.newShotInName(production.name)} width={440}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <TextField
          label={say.name}
          placeholder={say.exampleOfAName}
          value={name}
          maxLength={200}
          onChange={(event) => setName(event.target.value)}
        />
        <div className="grid grid-cols-[1.4fr_1fr_1fr] items-end gap-3">
          <Select
            label={say.frameSize}
            options={PRESET_NAMES}
            words={PRESET_WORDS}
            value={preset}
            placeholder={say.ownSize}
            onChange={(chosen) => {
              const found = FRAME_PRESETS.find((p) => p.name === chosen);
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
        <div className="grid grid-cols-[1.4fr_1fr_1fr] items-end gap-3">
          <div>
            <TextField
              label={say.rateFramesASecond}
              style={{ height: 26 }}
              value={rateText}
              list="rates"
              onChange={(event) => setRateText(event.target.value)}
            />
            <datalist id="rates">
              {COMMON_RATES.map((r) => (
                <option key={rationalText(r)} value={rationalText(r)} />
              ))}
            </datalist>
          </div>
          <NumberField
            label={say.length}
            unit="f"
            value={lengthFrames}
            {...LIMITS.lengthFrames}
            context={rate.ok ? { framesPerSecond: rationalToNumber(rate.value) } : {}}
            onCommit={(v) => setLengthFrames(Math.round(v))}
          />
          <p className="num pb-1.5 text-ink-2">
            {rate.ok ? formatSeconds(secondsOfFrames(lengthFrames, rate.value)) : ''}
          </p>
        </div>
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say.cancel}</Button>
          <Button type="submit" tone="strong" disabled={make.isPending}>
            {say.makeShot}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
