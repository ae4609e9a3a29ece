import { setChannelValue } from '@keen-ridge/core/edits/keys';
import { focusOn, setIrisForBlur, setKeepBlur } from '@keen-ridge/core/edits/look';
import { CLEAR_VISIBILITY_SPX } from '@keen-ridge/core/paint';
import type { Plane, PlaneId, Scene } from '@keen-ridge/core/scene';
import { channelOf, planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { type CameraChannel, type ChannelRef, ridesOnCamera, shownValueAt } from '@keen-ridge/core/staging';
import { framePlan, SHARP_PX, sharpBandAt } from '@keen-ridge/core/staging/frame';
import type { Key } from '@keen-ridge/core/timing';
import { toast } from 'sonner';
import { cameraAction } from '../../edits/camera-edits.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useCalmFrame, useCalmScene } from '../../session/pace/use-calm.ts';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { Checkbox } from '../../ui/fields/checkbox.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Select } from '../../ui/fields/select.tsx';
import { formatNumber } from '../../ui/format.ts';
import { lookWords as say } from '../../words/look.ts';
import { LookField } from './look-field.tsx';
import { PlaneLook } from './plane-look.tsx';

/** The camera's light, and below it what the chosen planes have of their own. */
export function LightDock() {
  return (
    <Dock id="light" label={say.light}>
      <p className="-mt-0.5 mb-2">
        <span className="font-semibold">{say.camera}</span>{' '}
        <span className="text-ink-2">{say.overEverything}</span>
      </p>
      <FocusFields />
      <AirFields />
      <FilterFields />
      <PlaneLook />
      <p className="mt-3 border-t border-rule-light pt-3 text-[12px] text-ink-2">{say.everyOneCanBeKeyed}</p>
    </Dock>
  );
}

const cameraRef = (name: CameraChannel): readonly ChannelRef[] => [{ on: 'camera', name }];

function CameraField({ name, label, none }: { name: CameraChannel; label: string; none?: number }) {
  return (
    <LookField
      label={label}
      subject={label}
      refs={cameraRef(name)}
      {...(none === undefined ? {} : { none })}
      {...(name === 'visibility' ? { step: 200 } : {})}
    />
  );
}

const ON_THE_WAY = 'way';
const A_DEPTH = 'depth';

/** What the focus follows at a frame: a plane, a depth, or neither while it is pulled from one key to another. */
function followedAt(scene: Scene, frame: number): PlaneId | typeof ON_THE_WAY | typeof A_DEPTH {
  const { keys, follows } = channelOf(scene.camera.focus);
  const of = (key: Pick<Key, 'follows'>) => (key.follows as PlaneId | undefined) ?? A_DEPTH;
  const [first, last] = [keys[0], keys.at(-1)];
  if (!first || !last) return of({ follows });
  if (frame <= first.frame) return of(first);
  if (frame >= last.frame) return of(last);
  const index = keys.findLastIndex((key) => key.frame <= frame);
  const [here, next] = [keys[index]!, keys[index + 1]!];
  return here.frame === frame || (here.follows !== undefined && here.follows === next.follows)
    ? of(here)
    : ON_THE_WAY;
}

function FocusFields() {
  const session = useSession();
  const scene = useCalmScene();
  const frame = useCalmFrame();
  const onStage = planesOf(scene).filter((plane) => !ridesOnCamera(scene, plane));
  const followed = followedAt(scene, frame);
  const options = [...onStage.map(({ id }) => id as string), A_DEPTH];
  const follow = (to: string) => {
    const { keying } = usePreferences.getState();
    const plane = planeOf(session.state.scene, to);
    const kept = session.state.scene;
    const change = { frame: session.state.frame, keying };
    if (plane) session.commit('set-focus', plane.name, focusOn(kept, plane.id, change));
    else {
      const depth = shownValueAt(kept, { on: 'camera', name: 'focus' }, change.frame);
      session.commit(
        cameraAction(),
        say.focus,
        setChannelValue(kept, { on: 'camera', name: 'focus' }, depth, change),
      );
    }
  };
  return (
    <section aria-label={say.focus}>
      <h3 className="mb-1.5 font-semibold">{say.focus}</h3>
      <Select
        label={say.sharpAt}
        options={options}
        words={{
          [A_DEPTH]: say.aDepth,
          ...Object.fromEntries(onStage.map(({ id, name }) => [id, name])),
        }}
        value={followed === ON_THE_WAY ? '' : followed}
        placeholder={say.onTheWay}
        onChange={follow}
      />
      <div className="mt-1.5 grid grid-cols-2 gap-x-1.5">
        <CameraField name="focus" label={say.depth} />
        <CameraField name="iris" label={say.irisAcross} />
      </div>
      <BlurOnPlane scene={scene} frame={frame} />
      <SharpSentence scene={scene} frame={frame} />
    </section>
  );
}

/** The iris by what it does to the chosen plane, and whether it keeps that up. */
function BlurOnPlane({ scene, frame }: { scene: Scene; frame: number }) {
  const session = useSession();
  const selection = useSessionState((state) => state.selection);
  const [chosen] = selection;
  const { keepBlur } = scene.move;
  const plane = planeOf(scene, keepBlur?.plane ?? (selection.length === 1 ? chosen : undefined));
  if (!plane || ridesOnCamera(scene, plane))
    return <p className="mt-1.5 text-[12px] text-ink-2">{say.choosePlaneForIris}</p>;
  const seen = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id);
  const blurPx = seen?.defocusPx ?? 0;
  return (
    <div className="mt-1.5">
      <div className="flex items-end gap-1.5">
        <NumberField
          className="w-28"
          label={say.orBlurOf}
          unit="px"
          decimals={1}
          step={0.5}
          min={0}
          max={1000}
          value={blurPx}
          onCommit={(px) => openForBlur(session, plane, px)}
        />
        <span className="narrow min-w-0 flex-1 truncate pb-1 text-ink-2">
          {say.onPlane} {plane.name}
        </span>
      </div>
      <Checkbox
        className="mt-1"
        checked={keepBlur !== undefined}
        onChange={(on) =>
          session.commit(
            'keep-blur',
            plane.name,
            setKeepBlur(session.state.scene, on ? { plane: plane.id, blurPx } : null),
          )
        }
      >
        <span title={say.keepsSoSoft}>{say.keepNameSoSoft(plane.name)}</span>
      </Checkbox>
    </div>
  );
}

function openForBlur(session: Session, plane: Plane, blurPx: number): void {
  const { scene, frame } = session.state;
  const { keepBlur } = scene.move;
  if (keepBlur) {
    session.commit('keep-blur', plane.name, setKeepBlur(scene, { plane: keepBlur.plane, blurPx }));
    return;
  }
  const { keying } = usePreferences.getState();
  const opened = setIrisForBlur(scene, plane.id, blurPx, { frame, keying });
  if (opened) session.commit(cameraAction(), 'Iris', opened);
  else toast(say.nameIsInFocus(plane.name));
}

function SharpSentence({ scene, frame }: { scene: Scene; frame: number }) {
  const iris = shownValueAt(scene, { on: 'camera', name: 'iris' }, frame);
  const band = sharpBandAt(scene, frame);
  const whole = (value: number) => (Number.isFinite(value) ? formatNumber(value, 0, true) : say.endless);
  const names = framePlan(scene, frame)
    .planes.filter(({ state, defocusPx, planeId }) => {
      const plane = planeOf(scene, planeId);
      return state === 'drawn' && defocusPx < SHARP_PX && plane && !ridesOnCamera(scene, plane);
    })
    .toReversed()
    .map(({ planeId }) => planeOf(scene, planeId)?.name ?? '');
  return (
    <p className="mt-1.5 text-[12px] text-ink-2" data-testid="sharp-sentence">
      {!(iris > 0)
        ? say.everythingIsSharp
        : band
          ? say.sharpFromTo(whole(band.nearSpx), whole(band.farSpx), names.join(', ') || say.noPlane)
          : say.nothingIsSharp}
    </p>
  );
}

/** A haze that is seen at once on a stage as deep as most: so many home distances. */
const FIRST_VISIBILITY = 5;

function AirFields() {
  const session = useSession();
  const scene = useCalmScene();
  const frame = useCalmFrame();
  const seenTo = shownValueAt(scene, { on: 'camera', name: 'visibility' }, frame);
  const clear = seenTo >= CLEAR_VISIBILITY_SPX;
  const set = (visibility: number) => {
    const { keying } = usePreferences.getState();
    session.commit(
      'set-air',
      say.theShot,
      setChannelValue(session.state.scene, { on: 'camera', name: 'visibility' }, visibility, {
        frame: session.state.frame,
        keying: keying && (scene.looks?.visibility !== undefined || !clear),
      }),
    );
  };
  return (
    <section aria-label={say.air} className="mt-3 border-t border-rule-light pt-3">
      <div className="mb-1.5 flex items-center">
        <h3 className="flex-1 font-semibold">{say.air}</h3>
        <Button
          tone="bare"
          onClick={() =>
            set(clear ? FIRST_VISIBILITY * session.state.scene.homeDistanceSpx : CLEAR_VISIBILITY_SPX)
          }
        >
          {clear ? say.addAir : say.noAir}
        </Button>
      </div>
      {clear && <p className="mb-1.5 text-[12px] text-ink-2">{say.airHazesPlanesTheFarther}</p>}
      <div className="grid grid-cols-2 gap-x-1.5">
        <CameraField name="airColour" label={say.colourOfTheAir} />
        <CameraField name="visibility" label={say.seenTo} none={CLEAR_VISIBILITY_SPX} />
      </div>
    </section>
  );
}

function FilterFields() {
  return (
    <section aria-label={say.filter} className="mt-3 border-t border-rule-light pt-3">
      <h3 className="mb-1.5 font-semibold" title={say.itLiesOverEverythingBut}>
        {say.filter}
      </h3>
      <div className="grid grid-cols-2 gap-x-1.5 gap-y-1.5">
        <CameraField name="brightness" label={say.filterBrightness} />
        <CameraField name="glow" label={say.glow} />
        <CameraField name="tint" label={say.filterTint} />
        <CameraField name="tintStrength" label={say.filterTintStrength} />
        <CameraField name="vignette" label={say.vignette} />
      </div>
    </section>
  );
}
