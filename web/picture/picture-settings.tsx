import { Slider, ToggleGroup } from 'radix-ui';
import { SURROUNDS, type Surround, setPreferences, usePreferences } from '../state/preferences.ts';
import { Popover } from '../ui/popover.tsx';

const WORDS: Readonly<Record<Surround, string>> = { dark: 'Dark', mid: 'Mid', light: 'Light' };

/** How the picture is shown; kept for this browser. */
export function PictureSettings() {
  const { surround, maskStrength } = usePreferences();
  return (
    <Popover label="View">
      <p className="mb-1 text-[11px] text-ink-2">Surround</p>
      <ToggleGroup.Root
        type="single"
        value={surround}
        aria-label="Surround"
        className="flex gap-1"
        onValueChange={(value) => {
          const chosen = SURROUNDS.find((name) => name === value);
          if (chosen) setPreferences({ surround: chosen });
        }}
      >
        {SURROUNDS.map((name) => (
          <ToggleGroup.Item
            key={name}
            value={name}
            className="h-[26px] flex-1 cursor-pointer rounded-[3px] border border-rule data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-white"
          >
            {WORDS[name]}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <p className="mb-1 mt-4 flex justify-between text-[11px] text-ink-2">
        Frame mask <span className="num">{Math.round(maskStrength * 100)} %</span>
      </p>
      <Slider.Root
        min={0}
        max={1}
        step={0.05}
        value={[maskStrength]}
        className="relative flex h-5 items-center"
        onValueChange={([value]) => value !== undefined && setPreferences({ maskStrength: value })}
      >
        <Slider.Track className="relative h-[3px] flex-1 bg-rule">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Frame mask"
          className="block h-4 w-4 rounded-full border border-ink bg-raised"
        />
      </Slider.Root>
    </Popover>
  );
}
