import { lookTakenFrom, pasteLook, type TakenLook } from '@keen-ridge/core/edits/look';
import { STARTING_LOOKS, type StartingLook } from '@keen-ridge/core/paint';
import { planeOf } from '@keen-ridge/core/scene/records';
import { X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { useKeepLook, useLooks, useTakeLookOff } from '../../api/takes.ts';
import { subjectOf } from '../../edits/depth-edits.ts';
import { readCopiedLook, storeCopiedLook } from '../../session/choices/copied-look.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { lookWords as say } from '../../words/look.ts';
import { Fades } from './fades.tsx';
import { Lights } from './lights.tsx';
import { MatchColour } from './match-colour.tsx';

/** Looks that are taken along, fades, colours that are matched, and lights to begin with. */
export function LooksDock() {
  return (
    <Dock id="looks" label={say.looks}>
      <StartingPoints />
      <Fades />
      <KeptLooks />
      <MatchColour />
      <Lights />
    </Dock>
  );
}

/** Gives a look to the camera, or to the chosen planes; says so where none is chosen. */
function give(session: Session, look: TakenLook, name: string): void {
  const { scene, frame, selection } = session.state;
  if (look.of === 'plane' && selection.length === 0) {
    toast(say.forAPlane);
    return;
  }
  const { keying } = usePreferences.getState();
  const given = pasteLook(scene, look, new Set(selection), { frame, keying });
  if (given === scene) toast(say.itIsSoAlready);
  else session.commit('paste-look', name, given);
}

const STARTS = Object.keys(STARTING_LOOKS) as StartingLook[];
const START_WORDS: Readonly<Record<StartingLook, string>> = {
  dawn: say.dawn,
  noon: say.noon,
  dusk: say.dusk,
  night: say.night,
};

function StartingPoints() {
  const session = useSession();
  return (
    <section aria-label={say.startingPoints}>
      <h3 className="mb-1.5 font-semibold">{say.startingPoints}</h3>
      <div className="grid grid-cols-4 gap-1">
        {STARTS.map((name) => {
          const { airColour } = STARTING_LOOKS[name];
          return (
            <Button
              key={name}
              title={say.givesTheCamera}
              onClick={() =>
                give(session, { of: 'camera', values: { ...STARTING_LOOKS[name] } }, START_WORDS[name])
              }
            >
              <span className="h-2.5 w-2.5 shrink-0 border border-ink-3" style={{ background: airColour }} />
              {START_WORDS[name]}
            </Button>
          );
        })}
      </div>
    </section>
  );
}

/** Looks by name, for all shots of the production, and one that is copied. */
function KeptLooks() {
  const session = useSession();
  const selection = useSessionState((state) => state.selection);
  const plane = useSessionState((state) =>
    state.selection.length === 1 ? planeOf(state.scene, state.selection[0]) : undefined,
  );
  const { productionId } = session.shot;
  const looks = useLooks(productionId);
  const keep = useKeepLook(productionId);
  const takeOff = useTakeLookOff(productionId);
  const [name, setName] = useState('');
  const kept = looks.data?.looks ?? [];
  const taken = () => lookTakenFrom(session.state.scene, plane?.id ?? 'camera', session.state.frame);
  const keepIt = () => {
    const look = taken();
    if (!look || name.trim() === '') return;
    keep.mutate({ name: name.trim(), look });
    setName('');
  };
  const copy = () => {
    const look = taken();
    if (look && storeCopiedLook(look))
      toast(say.copiedLook(plane?.name ?? say.theCamera), { duration: 1500 });
  };
  const paste = () => {
    const look = readCopiedLook();
    if (look)
      give(
        session,
        look,
        look.of === 'camera' ? say.theCamera : subjectOf(session.state.scene, [...selection]),
      );
    else toast(say.noLookCopied);
  };
  return (
    <section aria-label={say.keptLooks} className="mt-3 border-t border-rule-light pt-3">
      <h3 className="mb-1.5 font-semibold">{say.keptLooks}</h3>
      {looks.isError && <p className="text-fault">{say.theShelfCouldNotBe(looks.error.message)}</p>}
      {looks.isSuccess && kept.length === 0 && <p className="mb-1.5 text-ink-2">{say.noLooksKept}</p>}
      <ul className="max-h-44 overflow-auto">
        {kept.map((one) => (
          <li key={one.id} className="flex items-center gap-1">
            <button
              type="button"
              className="flex min-w-0 flex-1 cursor-pointer items-center gap-2 rounded-[3px] px-1 py-1 text-left hover:bg-select-wash"
              onClick={() => give(session, one.look, one.name)}
            >
              <span
                className="h-3 w-5 shrink-0 border border-ink-3"
                style={{
                  background: one.look.of === 'camera' ? one.look.values.airColour : one.look.values.tint,
                }}
              />
              <span className="min-w-0 flex-1 truncate">{one.name}</span>
              <span className="text-[11px] text-ink-2">
                {one.look.of === 'camera' ? say.ofTheCamera : say.ofAPlane}
              </span>
            </button>
            <Button
              tone="bare"
              icon
              aria-label={say.takeNameOff(one.name)}
              onClick={() => takeOff.mutate(one.id)}
            >
              <X size={13} aria-hidden="true" />
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex items-end gap-1.5">
        <div className="min-w-0 flex-1">
          <TextField
            label={plane ? say.keepPlaneAs(plane.name) : say.keepCameraAs}
            value={name}
            maxLength={200}
            style={{ height: 26 }}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && keepIt()}
          />
        </div>
        <Button disabled={name.trim() === ''} onClick={keepIt}>
          {say.keep}
        </Button>
      </div>
      <div className="mt-1.5 flex gap-1">
        <Button onClick={copy}>{say.copyLook}</Button>
        <Button onClick={paste}>{say.pasteLook}</Button>
      </div>
    </section>
  );
}
