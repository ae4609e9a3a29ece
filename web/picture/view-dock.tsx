import { Slider } from 'radix-ui';
import {
  ASPECTS,
  type Aspect,
  ROOMS,
  SAFE_SETS,
  SURROUNDS,
  type Surround,
  setPreferences,
  usePreferences,
} from '../session/choices/preferences.ts';
import { Dock } from '../ui/dock.tsx';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { pictureWords as say } from '../words/picture.ts';

const SURROUND_WORDS: Readonly<Record<Surround, string>> = { dark: say.dark, mid: say.mid, light: say.light };
const SAFE_WORDS = { off: say.off, modern: '93/90', older: '90/80', custom: say.own } as const;
const ASPECT_WORDS: Readonly<Record<Aspect, string>> = {
  none: say.off,
  '2.39': '2.39',
  '1.85': '1.85',
  '4:3': '4:3',
  '9:16': '9:16',
};
const ROOM_WORDS = { system: say.asTheSystem, light: say.light, dark: say.dark } as const;
const GUIDES = [
  ['fieldChart', 'Field chart'],
  ['thirds', 'Thirds'],
  ['centre', 'Centre'],
] as const;

/** How the picture is shown, and what is laid over it; kept for this browser. */
export function ViewDock() {
  const preferences = usePreferences();
  const { surround, room, maskStrength, safeAreas, customSafe, aspect } = preferences;
  return (
    <Dock id="view" label={say.view}>
      <Choice
        label={say.surround}
        options={SURROUNDS}
        words={SURROUND_WORDS}
        value={surround}
        onChange={(value) => setPreferences({ surround: value })}
      />
      <div className="mt-3">
        <Choice
          label={say.panels}
          options={ROOMS}
          words={ROOM_WORDS}
          value={room}
          onChange={(value) => setPreferences({ room: value })}
        />
      </div>
      <p className="mb-1 mt-3 flex justify-between text-[11px] text-ink-2">
        {say.frameMask}
        <span className="num">{Math.round(maskStrength * 100)} %</span>
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
          aria-label={say.frameMask2}
          className="relative block h-4 w-4 rounded-full border border-ink bg-raised before:absolute before:-inset-1 before:content-['']"
        />
      </Slider.Root>
      <fieldset className="mt-3 flex flex-wrap gap-x-3 gap-y-1">
        <legend className="mb-1 text-[11px] text-ink-2">{say.guides}</legend>
        {GUIDES.map(([name, word]) => (
          <Checkbox key={name} checked={preferences[name]} onChange={(on) => setPreferences({ [name]: on })}>
            {word}
          </Checkbox>
        ))}
      </fieldset>
      <div className="mt-3">
        <Choice
          label={say.safeAreasActionAndTitle}
          options={SAFE_SETS}
          words={SAFE_WORDS}
          value={safeAreas}
          onChange={(value) => setPreferences({ safeAreas: value })}
        />
      </div>
      {safeAreas === 'custom' && (
        <div className="mt-2 grid grid-cols-2 gap-2">
          {(['action', 'title'] as const).map((area) => (
            <NumberField
              key={area}
              label={area === 'action' ? say.action : say.title}
              unit="%"
              decimals={1}
              min={10}
              max={100}
              value={customSafe[area] * 100}
              onCommit={(value) => setPreferences({ customSafe: { ...customSafe, [area]: value / 100 } })}
            />
          ))}
        </div>
      )}
      <div className="mt-3">
        <Choice
          label={say.aspectMask}
          options={ASPECTS}
          words={ASPECT_WORDS}
          value={aspect}
          onChange={(value) => setPreferences({ aspect: value })}
        />
      </div>
    </Dock>
  );
}
