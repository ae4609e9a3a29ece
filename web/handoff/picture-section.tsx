import { HANDOFF_FORMATS } from '@keen-ridge/core/export';
import { type HandoffSettings, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Choice } from '../ui/fields/choice.tsx';
import { ColourField } from '../ui/fields/colour-field.tsx';
import { settingTrial } from '../ui/trial.ts';

const GROUND_WORDS = { clear: 'Clear', black: 'Black', colour: 'Colour' } as const;
const DEPTH_WORDS = { 8: '8 bit', 16: '16 bit' } as const;
const PLANES_WORDS = { together: 'Together', each: 'Each plane alone' } as const;
const TARGET_WORDS = { zip: 'Zip', folder: 'Folder' } as const;
const SIZES = ['25', '50', '100', '200'] as const;
const SIZE_WORDS = { '25': '25 %', '50': '50 %', '100': '100 %', '200': '200 %' } as const;

/** How large and how deep the pictures are, what lies where the stage is empty, and how planes and files are told apart. */
export function PictureSection() {
  const settings = usePreferences((state) => state.handoff);
  const keep = (part: Partial<HandoffSettings>) => setPreferences({ handoff: { ...settings, ...part } });
  const format = HANDOFF_FORMATS[settings.kind];
  const isFrames = format.made === 'frames';
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3">
      <div>
        <Choice
          label="Size"
          options={SIZES}
          words={SIZE_WORDS}
          value={SIZES.find((percent) => Number(percent) === settings.scalePercent) ?? '100'}
          onChange={(percent) => keep({ scalePercent: Number(percent) })}
        />
      </div>
      {format.depths.length > 1 && (
        <div>
          <Choice
            label="Depth"
            options={['8', '16'] as const}
            words={DEPTH_WORDS}
            value={settings.depth === 16 ? '16' : '8'}
            onChange={(depth) => keep({ depth: depth === '16' ? 16 : 8 })}
          />
        </div>
      )}
      <div className="flex items-end gap-2">
        <div className="flex-1">
          <Choice
            label="Where the stage is empty"
            options={format.alpha ? (['clear', 'black', 'colour'] as const) : (['black', 'colour'] as const)}
            words={GROUND_WORDS}
            value={settings.ground === 'clear' && !format.alpha ? 'black' : settings.ground}
            onChange={(ground) => keep({ ground })}
          />
        </div>
      </div>
      {settings.ground === 'colour' && (
        <ColourField
          label="Colour of the ground"
          colour={settings.groundColour}
          trial={settingTrial(settings.groundColour, (groundColour) => keep({ groundColour }))}
        />
      )}
      {isFrames && (
        <>
          <div>
            <Choice
              label="Planes"
              options={['together', 'each'] as const}
              words={PLANES_WORDS}
              value={settings.planes}
              onChange={(chosen) => keep({ planes: chosen })}
            />
          </div>
          <div>
            <Choice
              label="Delivered as"
              options={['zip', 'folder'] as const}
              words={TARGET_WORDS}
              value={settings.target}
              onChange={(target) => keep({ target })}
            />
          </div>
        </>
      )}
    </div>
  );
}
