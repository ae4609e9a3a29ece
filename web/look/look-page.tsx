import { HistoryDock } from '../edits/history-dock.tsx';
import { usePlaneCommands } from '../edits/plane-commands.ts';
import { Picture } from '../picture/picture.tsx';
import { useStepDocks } from '../picture/use-step-docks.ts';
import { ViewDock } from '../picture/view-dock.tsx';
import { LOOK_CLICKS, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useCalmFrame } from '../session/pace/use-calm.ts';
import { TimingStrip } from '../timeline/strip/timing-strip.tsx';
import { DockArea, DockProvider } from '../ui/dock.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { useNarrowWindow } from '../viewport/use-narrow-window.ts';
import { lookWords as say } from '../words/look.ts';
import { LightDock } from './docks/light-dock.tsx';
import { LooksDock } from './docks/looks-dock.tsx';
import { useMatching } from './matching.ts';
import { LIGHT_STAND_WIDTH, LightStand } from './stand/light-stand.tsx';
import { useLookClicks } from './use-look-clicks.ts';
import { useLookCommands } from './use-look-commands.ts';

const CLICK_WORDS = { sharp: say.makesSharp, choose: say.choosesAPlane } as const;

/** Light along the depth: what is sharp, the air, the filter, and the look of each plane, all keyed. */
export function LookPage() {
  usePlaneCommands();
  useLookCommands();
  const docks = useStepDocks('look');
  const narrow = useNarrowWindow();
  const lookClick = usePreferences((state) => state.lookClick);
  return (
    <DockProvider {...docks}>
      <main className="flex min-h-0 flex-1">
        <section
          aria-label={say.stand}
          className="flex min-h-0 shrink-0 flex-col border-r border-rule"
          style={{ width: LIGHT_STAND_WIDTH }}
        >
          <div className="flex h-[38px] shrink-0 items-center gap-2 border-b border-rule bg-bar px-3">
            <h1 className="font-semibold">{say.stand}</h1>
            <span className="flex-1" />
            <span className="narrow text-ink-2">{say.lightAlongTheDepth}</span>
          </div>
          <LightStand />
        </section>
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          <div className="flex min-h-[38px] shrink-0 flex-wrap items-center gap-1.5 py-1 border-b border-rule bg-bar px-3">
            <span className="text-ink-2">{say.aClick}</span>
            <Choice
              label={say.aClick}
              hideLabel
              options={LOOK_CLICKS}
              words={CLICK_WORDS}
              value={lookClick}
              onChange={(value) => setPreferences({ lookClick: value })}
            />
            <div className="flex flex-1 flex-wrap justify-end gap-x-1.5 gap-y-1">
              <LightDock />
              <LooksDock />
              <HistoryDock />
              <ViewDock />
            </div>
          </div>
          <DockArea>
            <div className="flex min-h-0 min-w-0 flex-1 flex-col">
              <section aria-label={say.picture} className="flex min-h-0 flex-1">
                <LookPicture />
              </section>
              {!narrow && <TimingStrip of="look" />}
            </div>
          </DockArea>
          {narrow && <TimingStrip of="look" />}
        </div>
      </main>
    </DockProvider>
  );
}

function LookPicture() {
  const { grasp, slackPx } = useLookClicks();
  const sharp = usePreferences((state) => state.lookClick === 'sharp');
  const picking = useMatching((state) => state.picking !== null);
  return (
    <Picture
      margin={0.05}
      label={sharp ? say.pictureClickWhatShall : say.pictureClickToChoose}
      cursor={sharp || picking ? 'crosshair' : 'default'}
      grasp={grasp}
      slackPx={slackPx}
      over={() => <ClickHint />}
    />
  );
}

/** What a click in the picture does now. */
function ClickHint() {
  const frame = useCalmFrame();
  const sharp = usePreferences((state) => state.lookClick === 'sharp');
  const keying = usePreferences((state) => state.keying);
  const picking = useMatching((state) => state.picking);
  const words =
    picking === 'from'
      ? say.clickTheColourToChange
      : picking === 'to'
        ? say.clickTheColourToMeet
        : sharp
          ? keying
            ? say.clickWhatShallBeSharp(frame)
            : say.clickWhatShallBeSharpAll
          : null;
  if (!words) return null;
  return (
    <p className="pointer-events-none absolute bottom-2.5 left-2.5 max-w-[calc(100%-190px)] rounded-[3px] border border-rule bg-raised px-2.5 py-1">
      {words}
    </p>
  );
}
