import { planesOf } from '@keen-ridge/core/scene/records';
import { Minus, Plus } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { useChooseArt } from '../bring-in/art-drop.tsx';
import { HistoryDock } from '../edits/history-dock.tsx';
import { usePlaneCommands } from '../edits/plane-commands.ts';
import { useStepDocks } from '../picture/use-step-docks.ts';
import { ViewDock } from '../picture/view-dock.tsx';
import { setPreferences, usePreferences, VIEWS, type ViewName } from '../session/choices/preferences.ts';
import { useSessionState } from '../session/use-session.ts';
import { Transport } from '../timeline/transport.tsx';
import { Button } from '../ui/button.tsx';
import { Dock, DockArea, DockProvider } from '../ui/dock.tsx';
import { counted } from '../ui/format.ts';
import { SideBySide } from '../ui/side-by-side.tsx';
import { ViewSwitch } from '../ui/view-switch.tsx';
import { useNarrowWindow } from '../viewport/use-narrow-window.ts';
import { FieldingView } from '../views/fielding-view.tsx';
import { stageWords as say } from '../words/stage.ts';
import { FigureDock } from './figure-dock.tsx';
import { LoopDock } from './loop-dock.tsx';
import { MeasureBar } from './measure-bar.tsx';
import { PinsDock } from './pins/pins-dock.tsx';
import { PlanePanel } from './plane-panel.tsx';
import { RockControls } from './rock-controls.tsx';
import { SetsDock } from './sets/sets-dock.tsx';
import { SpreadPanel } from './spread/spread-panel.tsx';
import { StagePicture } from './stage-picture.tsx';
import { STAND_WIDTH, Stand } from './stand/stand.tsx';
import { useRock } from './use-rock.ts';
import { useStageCommands } from './use-stage-commands.ts';

const AroundView = lazy(async () => ({
  default: (await import('../views/around/around-view.tsx')).AroundView,
}));

/** Where the artist decides how far everything is: the Stand beside one or two views of the stage. */
export function StagePage() {
  useRock();
  usePlaneCommands();
  useStageCommands();
  const docks = useStepDocks('stage');
  const views = usePreferences((state) => state.views);
  // Beside the Stand there is no room for both.
  const narrow = useNarrowWindow();
  return (
    <DockProvider {...docks}>
      <main className="flex min-h-0 flex-1">
        <StandSide />
        <section aria-label={say.picture} className="flex min-h-0 min-w-0 flex-1 flex-col">
          <div
            data-testid="stage-bar"
            className={`flex min-h-[38px] shrink-0 flex-wrap items-center gap-1.5 py-1 border-b border-rule bg-bar px-3 ${narrow ? 'narrow [&_button]:px-1.5' : ''}`}
          >
            <ViewSwitch
              options={VIEWS}
              words={VIEW_WORDS}
              views={views}
              onChange={(next) => setPreferences({ views: next })}
            />
            <div className="flex flex-1 flex-wrap justify-end gap-x-1.5 gap-y-1">
              <LoopDock />
              <FigureDock />
              <PinsDock />
              <SetsDock />
              <HistoryDock />
              <ViewDock />
            </div>
          </div>
          <MeasureBar />
          <DockArea beneath={narrow}>
            <SideBySide views={views} show={(view) => <StageView name={view} />} />
          </DockArea>
          <Transport />
          <PlanePanel />
        </section>
      </main>
    </DockProvider>
  );
}

function StageView({ name }: { name: ViewName }) {
  switch (name) {
    case 'camera':
      return <StagePicture />;
    case 'fielding':
      return <FieldingView />;
    case 'around':
      return (
        <Suspense fallback={<p className="p-4 text-ink-2">{say.openingTheView}</p>}>
          <AroundView />
        </Suspense>
      );
  }
}

const VIEW_WORDS: Readonly<Record<ViewName, string>> = {
  camera: say.camera,
  fielding: say.fielding,
  around: say.around,
};

function StandSide() {
  const { holdPicture, standAxis } = usePreferences();
  const [zoom, setZoom] = useState(1);
  const choose = useChooseArt();
  const count = useSessionState((state) => planesOf(state.scene).length);
  return (
    <section
      aria-label={say.stand}
      className="flex min-h-0 shrink-0 flex-col border-r border-rule"
      style={{ width: STAND_WIDTH }}
    >
      <div className="flex h-[38px] shrink-0 items-center gap-1.5 border-b border-rule bg-bar px-3">
        <h1 className="font-semibold">{say.stand}</h1>
        <span className="flex-1" />
        <Dock id="spread" label={say.spread} disabled={count === 0}>
          <SpreadPanel />
        </Dock>
        <RockControls />
        <Button
          on={holdPicture}
          title={holdPicture ? say.onAPlaneThatChanges : say.offAPlaneTrulyShrinks}
          onClick={() => setPreferences({ holdPicture: !holdPicture })}
        >
          {say.holdPicture}
        </Button>
        <Button onClick={choose}>{say.add}</Button>
      </div>
      <Stand zoom={zoom} onZoom={setZoom} />
      <div className="flex h-8 shrink-0 items-center gap-1.5 border-t border-rule bg-bar px-3 text-ink-2">
        <span className="num">{counted(count, 'plane')}</span>
        <span className="flex-1" />
        <Button
          tone="bare"
          title={say.equalStepsAreEqualRatios}
          onClick={() => setPreferences({ standAxis: standAxis === 'log' ? 'true' : 'log' })}
        >
          {standAxis === 'log' ? say.axisByRatio : say.axisByDistance}
        </Button>
        <Button
          tone="bare"
          icon
          aria-label={say.stretchTheStandLess}
          disabled={zoom <= 1}
          onClick={() => setZoom(Math.max(1, zoom / 1.5))}
        >
          <Minus size={13} aria-hidden="true" />
        </Button>
        <span className="num w-10 text-center">{Math.round(zoom * 100)} %</span>
        <Button
          tone="bare"
          icon
          aria-label={say.stretchTheStandMore}
          onClick={() => setZoom(Math.min(24, zoom * 1.5))}
        >
          <Plus size={13} aria-hidden="true" />
        </Button>
      </div>
    </section>
  );
}
