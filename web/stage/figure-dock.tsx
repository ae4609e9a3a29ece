import { planeOf } from '@keen-ridge/core/scene/records';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { settingTrial } from '../ui/trial.ts';
import { stageWords as say } from '../words/stage.ts';

/** A stand-in figure on the chosen plane: does a character of this height fit its doors and trees? */
export function FigureDock() {
  const session = useSession();
  const figure = useSessionState((state) => state.figure);
  const selection = useSessionState((state) => state.selection);
  const scene = useSessionState((state) => state.scene);
  const size = usePreferences((state) => state.figure);
  const chosen = planeOf(scene, selection[0]);
  const under = planeOf(scene, figure?.planeId);
  const change = (part: Partial<typeof size>) => setPreferences({ figure: { ...size, ...part } });
  const standOn = (planeId: (typeof selection)[number]) =>
    session.setFigure({ planeId, feet: figure?.feet ?? { x: 0, y: scene.frame.heightPx * 0.3 } });
  return (
    <Dock id="figure" label={say.standIn} on={figure !== null}>
      <p className="text-[12px] text-ink-2">
        {under ? say.standsAtTheDistanceOf(under.name) : say.aPlainFigureToSee}
      </p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <NumberField
          label={say.heightOnTheDatum}
          unit="px"
          min={1}
          max={100_000}
          step={10}
          value={size.heightPx}
          trial={settingTrial(size.heightPx, (heightPx) => change({ heightPx }))}
        />
        <NumberField
          label={say.heads}
          unit=""
          decimals={1}
          min={1}
          max={12}
          step={0.5}
          value={size.heads}
          trial={settingTrial(size.heads, (heads) => change({ heads }))}
        />
        <NumberField
          label={say.oneHead}
          unit="px"
          decimals={1}
          min={1}
          max={10_000}
          value={size.heightPx / size.heads}
          onCommit={(head) => change({ heightPx: head * size.heads })}
        />
      </div>
      <div className="mt-3 flex gap-2">
        <Button disabled={!chosen} onClick={() => chosen && standOn(chosen.id)}>
          {chosen ? say.standOnName(chosen.name) : say.chooseAPlaneFirst}
        </Button>
        {figure && <Button onClick={() => session.setFigure(null)}>{say.deleteIt}</Button>}
      </div>
    </Dock>
  );
}
