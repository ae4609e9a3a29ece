import { setAir, setFilter } from '@keen-ridge/core/edits/look';
import { type CameraFilter, PLAIN_FILTER } from '@keen-ridge/core/paint';
import type { Scene } from '@keen-ridge/core/scene';
import { keysOf } from '@keen-ridge/core/scene/records';
import { shownValueAt } from '@keen-ridge/core/staging';
import { cameraTrial } from '../edits/camera-edits.ts';
import { useCalmFrame } from '../session/pace/use-calm.ts';
import { sceneTrial } from '../session/scene-trial.ts';
import { useSession, useShownScene } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { ColourField } from '../ui/fields/colour-field.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { stageWords as say } from '../words/stage.ts';

const FIRST_AIR = { colour: '#9fb0bf' } as const;
/** A haze that is seen at once on a stage as deep as most: five home distances. */
const FIRST_VISIBILITY = 5;

/** What lies between the planes and in front of the camera: air, lens, filter. */
export function AirDock() {
  const scene = useShownScene();
  const on = scene.air !== null || scene.filter !== null || hasLens(scene);
  return (
    <Dock id="air" label={say.airAndLens} on={on}>
      <AirControls scene={scene} />
      <LensControls scene={scene} />
      <FilterControls scene={scene} />
    </Dock>
  );
}

const hasLens = ({ camera: { iris } }: Scene): boolean => iris.value > 0 || keysOf(iris).length > 0;

function AirControls({ scene }: { scene: Scene }) {
  const session = useSession();
  const { air } = scene;
  if (!air) {
    return (
      <div className="flex items-center gap-3">
        <p className="flex-1 text-ink-2">{say.airHazesPlanesTheFarther}</p>
        <Button
          onClick={() =>
            session.commit(
              'set-air',
              'the stage',
              setAir(session.state.scene, {
                ...FIRST_AIR,
                visibilitySpx: FIRST_VISIBILITY * scene.homeDistanceSpx,
              }),
            )
          }
        >
          {say.addAir}
        </Button>
      </div>
    );
  }
  return (
    <div className="flex items-end gap-3">
      <ColourField
        label={say.colourOfTheAir}
        colour={air.colour}
        trial={sceneTrial(session, 'set-air', 'the stage', (kept, colour) =>
          setAir(kept, { ...air, colour }),
        )}
      />
      <NumberField
        className="w-28"
        label={say.visibility}
        unit="px"
        step={50}
        min={1}
        max={1e9}
        value={air.visibilitySpx}
        trial={sceneTrial(session, 'set-air', 'the stage', (kept, visibilitySpx) =>
          setAir(kept, { ...air, visibilitySpx }),
        )}
      />
      <Button onClick={() => session.commit('set-air', 'the stage', setAir(session.state.scene, null))}>
        {say.none}
      </Button>
    </div>
  );
}

function LensControls({ scene }: { scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const at = (name: 'focus' | 'iris') => shownValueAt(scene, { on: 'camera', name }, frame);
  const field = (name: 'focus' | 'iris') => ({
    value: at(name),
    trial: cameraTrial(session, name),
  });
  return (
    <div className="mt-3 border-t border-rule-light pt-3">
      <div className="flex items-end gap-3">
        <NumberField
          className="w-28"
          label={say.focusAtDepth}
          unit="px"
          step={20}
          signed
          {...field('focus')}
        />
        <NumberField
          className="w-28"
          label={say.irisWidth}
          unit="px"
          decimals={1}
          min={0}
          max={1e6}
          {...field('iris')}
        />
      </div>
      <p className="mt-1.5 text-[12px] text-ink-2">{say.withTheIrisShutEverything}</p>
    </div>
  );
}

const PERCENTS = [
  { name: 'brightness', label: say.brightness, most: 400 },
  { name: 'tintStrength', label: say.tintStrength, most: 100 },
  { name: 'glow', label: say.glow, most: 100 },
  { name: 'vignette', label: say.vignette, most: 100 },
] as const;

function FilterControls({ scene }: { scene: Scene }) {
  const session = useSession();
  const filter = scene.filter ?? PLAIN_FILTER;
  const set = <T,>(part: (value: T) => Partial<CameraFilter>) =>
    sceneTrial<T>(session, 'set-filter', 'the camera', (kept, value) => setFilter(kept, part(value)));
  return (
    <div className="mt-3 border-t border-rule-light pt-3">
      <p className="mb-1.5 font-semibold">{say.filterInFrontOfThe}</p>
      <div className="grid grid-cols-2 gap-2">
        {PERCENTS.map(({ name, label, most }) => (
          <NumberField
            key={name}
            label={label}
            unit="%"
            min={0}
            max={most}
            value={filter[name] * 100}
            trial={set((v: number) => ({ [name]: v / 100 }))}
          />
        ))}
        <ColourField label={say.filterTint} colour={filter.tint} trial={set((tint: string) => ({ tint }))} />
      </div>
      <p className="mt-1.5 text-[12px] text-ink-2">{say.itLiesOverEverythingBut}</p>
    </div>
  );
}
