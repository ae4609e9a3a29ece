import {
  CHOSEN_SHOWN,
  DEPTH_FILES,
  type DepthFile,
  HANDOFF_FORMATS,
  isNumberPass,
  PASSES,
  type PassName,
} from '@keen-ridge/core/export';
import { type HandoffSettings, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSessionState } from '../session/use-session.ts';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { ColourField } from '../ui/fields/colour-field.tsx';
import { settingTrial } from '../ui/trial.ts';
import { handoffWords as say } from '../words/handoff.ts';

const GROUND_WORDS = { clear: say.clear, black: say.black, colour: say.colour } as const;
const DEPTH_WORDS = { 8: say.eightBit, 16: say.sixteenBit } as const;
const PLANES_WORDS = { together: say.together, each: say.eachPlaneAlone } as const;
const TARGET_WORDS = { zip: say.zip, folder: say.folder } as const;
const PASS_WORDS: Readonly<Record<PassName, string>> = {
  picture: say.thePicture,
  depth: say.depthPass,
  matte: say.mattes,
  'matte-seen': say.mattesSeen,
  motion: say.motionPass,
};
const PASS_MEANS: Readonly<Record<Exclude<PassName, 'picture'>, string>> = {
  depth: say.depthMeans,
  matte: say.mattesMean,
  'matte-seen': say.mattesSeenMean,
  motion: say.motionMeans,
};
const DEPTH_FILE_WORDS: Readonly<Record<DepthFile, string>> = {
  png: say.depthPng,
  'exr-half': say.depthExrHalf,
  'exr-float': say.depthExrFloat,
};
const SIZES = ['25', '50', '100', '200'] as const;
const SIZE_WORDS = { '25': '25 %', '50': '50 %', '100': '100 %', '200': '200 %' } as const;

/** How large and how deep the pictures are, what lies where the stage is empty, and how planes and files are told apart. */
export function PictureSection() {
  const settings = usePreferences((state) => state.handoff);
  const keep = (part: Partial<HandoffSettings>) => setPreferences({ handoff: { ...settings, ...part } });
  const format = HANDOFF_FORMATS[settings.kind];
  const isFrames = format.made === 'frames';
  // A pass says by itself how deep it is, what lies beneath and whether planes leave one by one.
  const isPicture = !isFrames || settings.pass === 'picture';
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3">
      <div>
        <Choice
          label={say.size}
          options={SIZES}
          words={SIZE_WORDS}
          value={SIZES.find((percent) => Number(percent) === settings.scalePercent) ?? '100'}
          onChange={(percent) => keep({ scalePercent: Number(percent) })}
        />
      </div>
      {format.depths.length > 1 && isPicture && (
        <div>
          <Choice
            label={say.depth}
            options={['8', '16'] as const}
            words={DEPTH_WORDS}
            value={settings.depth === 16 ? '16' : '8'}
            onChange={(depth) => keep({ depth: depth === '16' ? 16 : 8 })}
          />
        </div>
      )}
      {isPicture && (
        <div className="flex items-end gap-2">
          <div className="flex-1">
            <Choice
              label={say.whereTheStageIsEmpty}
              options={
                format.alpha ? (['clear', 'black', 'colour'] as const) : (['black', 'colour'] as const)
              }
              words={GROUND_WORDS}
              value={settings.ground === 'clear' && !format.alpha ? 'black' : settings.ground}
              onChange={(ground) => keep({ ground })}
            />
          </div>
        </div>
      )}
      {settings.ground === 'colour' && isPicture && (
        <ColourField
          label={say.colourOfTheGround}
          colour={settings.groundColour}
          trial={settingTrial(settings.groundColour, (groundColour) => keep({ groundColour }))}
        />
      )}
      {isFrames && (
        <div className="col-span-2">
          <Choice
            label={say.whatFramesShow}
            options={PASSES}
            words={PASS_WORDS}
            value={settings.pass}
            onChange={(pass) => keep({ pass })}
          />
          {settings.pass !== 'picture' && (
            <p className="mt-1 text-[12px] text-ink-2">{PASS_MEANS[settings.pass]}</p>
          )}
          {isNumberPass(settings.pass) && (
            <div className="mt-2">
              <Choice
                label={say.depthAs}
                options={DEPTH_FILES}
                words={DEPTH_FILE_WORDS}
                value={settings.depthFile}
                onChange={(depthFile) => keep({ depthFile })}
              />
            </div>
          )}
        </div>
      )}
      <Extras settings={settings} keep={keep} isPicture={isPicture} />
      {isFrames && (
        <>
          {isPicture && (
            <div>
              <Choice
                label={say.planes}
                options={['together', 'each'] as const}
                words={PLANES_WORDS}
                value={settings.planes}
                onChange={(chosen) => keep({ planes: chosen })}
              />
            </div>
          )}
          <div>
            <Choice
              label={say.deliveredAs}
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

const CHOSEN = ['as-they-are', ...CHOSEN_SHOWN] as const;
const CHOSEN_WORDS = { 'as-they-are': say.asTheyAre, alone: say.alone, dimmed: say.dimmed } as const;

interface ExtrasProps {
  settings: HandoffSettings;
  keep: (part: Partial<HandoffSettings>) => void;
  isPicture: boolean;
}

/** What is drawn more or less than the picture: pins, looks, chosen planes. */
function Extras({ settings, keep, isPicture }: ExtrasProps) {
  const chosen = useSessionState((state) => state.selection.length);
  const sound = useSessionState((state) => state.scene.sound);
  return (
    <>
      <div>
        <Choice
          label={`${say.chosenPlanesAre} (${chosen})`}
          options={CHOSEN}
          words={CHOSEN_WORDS}
          value={settings.chosenShown}
          onChange={(chosenShown) => keep({ chosenShown })}
        />
        {settings.chosenShown !== 'as-they-are' && chosen === 0 && (
          <p className="mt-1 text-[12px] text-ink-2">{say.noneIsChosen}</p>
        )}
      </div>
      {isPicture && (
        <div className="flex flex-wrap items-end gap-x-3">
          <Checkbox checked={settings.pins} onChange={(pins) => keep({ pins })}>
            {say.drawPins}
          </Checkbox>
          {sound && HANDOFF_FORMATS[settings.kind].sound && (
            <Checkbox checked={settings.sound} onChange={(on) => keep({ sound: on })}>
              {sound.muted ? say.soundMuted : say.withSound}
            </Checkbox>
          )}
          <span title={say.withLooksMeans}>
            <Checkbox checked={settings.looks} onChange={(looks) => keep({ looks })}>
              {say.withLooks}
            </Checkbox>
          </span>
        </div>
      )}
    </>
  );
}
