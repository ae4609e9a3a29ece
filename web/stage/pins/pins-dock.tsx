import { deletePin, renamePin } from '@keen-ridge/core/edits/planes';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { type ListedPin, pinsOf, planesOf } from '@keen-ridge/core/scene/records';
import { framePlan, pinsOnFrame } from '@keen-ridge/core/staging/frame';
import { MapPin, X } from 'lucide-react';
import { useCalmFrame, useCalmScene } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { stageWords as say } from '../../words/stage.ts';
import { PINS_DOCK } from './pinning.ts';

/** Points of planes that others need to know of on every frame: put down in the picture, named here. */
export function PinsDock() {
  const session = useSession();
  const pinning = useSessionState((state) => state.pinning);
  const scene = useCalmScene();
  const pinned = planesOf(scene).filter((plane) => pinsOf(plane).length > 0);
  return (
    <Dock id={PINS_DOCK} label={say.pins} on={pinning}>
      <p className="text-[12px] text-ink-2">{say.pointsOthersNeed}</p>
      <Button className="mt-2" on={pinning} onClick={() => session.setPinning(!pinning)}>
        <MapPin size={13} aria-hidden="true" />
        {pinning ? say.clickInThePicture : say.putDownAPin}
      </Button>
      {pinned.length === 0 && <p className="mt-3 text-ink-2">{say.noPinsYet}</p>}
      {pinned.map((plane) => (
        <section key={plane.id} aria-label={say.pinsOfName(plane.name)} className="mt-3">
          <h3 className="truncate font-semibold">{plane.name}</h3>
          <ul>
            {pinsOf(plane).map((pin) => (
              <PinRow key={pin.id} plane={plane} pin={pin} scene={scene} />
            ))}
          </ul>
        </section>
      ))}
    </Dock>
  );
}

function PinRow({ plane, pin, scene }: { plane: Plane; pin: ListedPin; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const here = pinsOnFrame(scene, framePlan(scene, frame)).find(
    (one) => one.plane.id === plane.id && one.pin.id === pin.id,
  );
  const rename = (name: string) => {
    if (name.trim() === '' || name === pin.name) return;
    session.commit('set-pin', name, renamePin(session.state.scene, plane.id, pin.id, name));
  };
  return (
    <li className="mt-1 grid grid-cols-[1fr_auto_auto] items-end gap-2">
      <TextField
        key={pin.name}
        label={say.nameOfThePin}
        hideLabel
        className="h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
        maxLength={200}
        defaultValue={pin.name}
        onBlur={(event) => rename(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
      />
      <span className="num text-[12px] text-ink-2" title={say.placeInTheFrame}>
        {here ? `${formatNumber(here.at.x, 1)}, ${formatNumber(here.at.y, 1)}` : say.passed}
      </span>
      <Button
        tone="bare"
        icon
        aria-label={say.deleteName(pin.name)}
        onClick={() =>
          session.commit('delete-pin', pin.name, deletePin(session.state.scene, plane.id, pin.id))
        }
      >
        <X size={13} aria-hidden="true" />
      </Button>
    </li>
  );
}
