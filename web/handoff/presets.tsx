import { X } from 'lucide-react';
import { useState } from 'react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { Popover } from '../ui/popover.tsx';
import { handoffWords as say } from '../words/handoff.ts';

/** What a character animator draws to: small, with the numbers of the frames and where the pins are. */
const GUIDE_FILM = { kind: 'mp4', scalePercent: 50, burnIn: true, pins: true } as const;

/** Hand-offs as they were set, under a name, for every shot: taken with a click, kept with a name. */
export function Presets() {
  const presets = usePreferences((state) => state.handoffPresets);
  const settings = usePreferences((state) => state.handoff);
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const keep = () => {
    const called = name.trim();
    if (called === '') return;
    const others = presets.filter((preset) => preset.name !== called);
    setPreferences({ handoffPresets: [...others, { name: called, settings }] });
    setName('');
    setOpen(false);
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-1.5">
      <Button
        title={say.guideFilmMeans}
        onClick={() => setPreferences({ handoff: { ...settings, ...GUIDE_FILM } })}
      >
        {say.guideFilm}
      </Button>
      {presets.map((preset) => (
        <span key={preset.name} className="inline-flex">
          <Button
            className="rounded-r-none border-r-0"
            on={JSON.stringify(preset.settings) === JSON.stringify(settings)}
            onClick={() => setPreferences({ handoff: preset.settings })}
          >
            {preset.name}
          </Button>
          <Button
            icon
            className="rounded-l-none"
            aria-label={say.deletePreset(preset.name)}
            onClick={() =>
              setPreferences({ handoffPresets: presets.filter((other) => other.name !== preset.name) })
            }
          >
            <X size={12} aria-hidden="true" />
          </Button>
        </span>
      ))}
      <Popover label={say.keepAsPreset} open={open} onOpenChange={setOpen}>
        <TextField
          label={say.nameOfThePreset}
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            // It lies in the form of the hand-off, which Enter would send.
            event.preventDefault();
            keep();
          }}
        />
        <p className="mt-1 text-[12px] text-ink-2">{say.presetKeeps}</p>
        <Button className="mt-2" disabled={name.trim() === ''} onClick={keep}>
          {say.keep}
        </Button>
      </Popover>
    </div>
  );
}
