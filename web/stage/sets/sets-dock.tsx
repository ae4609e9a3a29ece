import type { NewSet, ProductionSet, SetChanged } from '@keen-ridge/core/contract/sets';
import {
  changedIn,
  followAgain,
  followingSet,
  planesForSet,
  setAsHere,
  withSet,
} from '@keen-ridge/core/edits/sets';
import { type Plane, type Scene, setIdSchema } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { useState } from 'react';
import { changeSet, makeSet, putSetAway, useSetChange, useSets } from '../../api/sets.ts';
import { newPlaneId } from '../../edits/art-edits.ts';
import { tellFault } from '../../edits/while-told.ts';
import { useAuthor } from '../../session/author.ts';
import { useCalmScene } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { counted } from '../../ui/format.ts';
import { stageWords as say } from '../../words/stage.ts';
import { uiWords } from '../../words/ui.ts';
import { SetFindingsList } from './set-findings.tsx';

const SETS_DOCK = 'sets';

/** Staged planes that several shots follow: made of the chosen ones, used here, changed for all that follow. */
export function SetsDock() {
  return (
    <Dock id={SETS_DOCK} label={say.sets}>
      <SetsOfProduction />
    </Dock>
  );
}

function SetsOfProduction() {
  const { shot } = useSession();
  const links = useSessionState((state) => linksOf(state.scene));
  const list = useSets(shot.productionId, links);
  return (
    <>
      <p className="text-[12px] text-ink-2">{say.setsMean}</p>
      <NewSetForm />
      {list.isError && (
        <p role="alert" className="mt-3 text-fault">
          {list.error.message}
        </p>
      )}
      {list.data?.sets.length === 0 && <p className="mt-3 text-ink-2">{say.noSetsYet}</p>}
      {list.data?.sets.map((set) => (
        <SetSection key={set.id} set={set} />
      ))}
    </>
  );
}

/** Which planes are of which set, and how: when it changes, so do the lists of who uses what. */
const linksOf = (scene: Scene): string =>
  planesOf(scene)
    .flatMap(({ ofSet }) => (ofSet ? [`${ofSet.plane}${ofSet.follows ? '' : '!'}`] : []))
    .join();

function NewSetForm() {
  const session = useSession();
  const selection = useSessionState((state) => state.selection);
  const { productionId } = session.shot;
  // Linked within the same change: a dock that is folded meanwhile must not leave a set that nobody follows.
  const make = useSetChange(productionId, async (set: NewSet) => {
    await makeSet(productionId)(set);
    session.commit('make-set', set.name, followingSet(session.state.scene, set));
    setName('');
  });
  const [name, setName] = useState('');
  const called = name.trim();
  const submit = () => {
    const { scene, frame } = session.state;
    const id = setIdSchema.parse(crypto.randomUUID());
    const planes = planesForSet(scene, new Set(selection), frame);
    make.mutate({ id, name: called, planes });
  };
  if (selection.length === 0) return <p className="mt-2 text-ink-2">{say.choosePlanesForASet}</p>;
  return (
    <form
      className="mt-2 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div className="flex-1">
        <TextField
          label={say.nameOfTheSet}
          className="h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
          maxLength={200}
          value={name}
          fault={make.error?.message}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <Button type="submit" className="h-[26px]" disabled={called === '' || make.isPending}>
        {say.makeSetOf(counted(selection.length, 'plane'))}
      </Button>
    </form>
  );
}

function SetSection({ set }: { set: ProductionSet }) {
  const session = useSession();
  const { shot } = session;
  const scene = useCalmScene();
  const away = useSetChange(shot.productionId, putSetAway);
  const [given, setGiven] = useState<SetChanged | null>(null);
  const here = planesOf(scene).filter(({ ofSet }) => ofSet?.set === set.id);
  const own = here.filter(({ ofSet }) => !ofSet?.follows);
  const others = set.users.filter(({ shotId }) => shotId !== shot.id);
  const missing = set.planes.filter(({ id }) => !here.some(({ ofSet }) => ofSet?.plane === id));
  const use = () => {
    const used = withSet(session.state.scene, set, newPlaneId);
    if (session.commit('use-set', set.name, used.scene)) session.select(used.ids);
  };
  return (
    <section aria-label={set.name} className="mt-4 border-t border-rule pt-2.5">
      <h3 className="truncate font-semibold">{set.name}</h3>
      <p className="text-[12px] text-ink-2">
        {counted(set.planes.length, 'plane')}
        {here.length > 0 && ` · ${say.followHere(here.length - own.length, own.length)}`}
      </p>
      <p className="text-[12px] text-ink-2">
        {others.length === 0 ? say.noOtherShot : say.alsoIn(others.map(({ name }) => name).join(', '))}
      </p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {missing.length > 0 && (
          <Button onClick={use}>
            {here.length === 0 ? say.putHere : say.putTheOthersHere(missing.length)}
          </Button>
        )}
        <Button
          tone="bare"
          title={say.putAwayMeans}
          disabled={away.isPending}
          onClick={() => away.mutate(set.id, { onError: tellFault })}
        >
          {say.putAway}
        </Button>
      </div>
      {own.length > 0 && <OwnCopies set={set} own={own} onGiven={setGiven} />}
      {own.length === 0 && given && <SetFindingsList set={set} changed={given} />}
    </section>
  );
}

/** The planes that this shot has its own copies of: given to all that follow, or given up. */
function OwnCopies({
  set,
  own,
  onGiven,
}: {
  set: ProductionSet;
  own: readonly Plane[];
  onGiven: (changed: SetChanged) => void;
}) {
  const session = useSession();
  const { shot } = session;
  const author = useAuthor();
  const give = useSetChange(shot.productionId, async (asked: Parameters<typeof changeSet>[0]) => {
    const changed = await changeSet(asked);
    follow(asked.change.planes);
    onGiven(changed);
  });
  const [asked, setAsked] = useState(false);
  // Until the server knows of the own copies it would have this shot follow too, and its next edit come upon that.
  const unsaved = useSessionState(({ saveState }) => saveState !== 'saved');
  const ids = new Set(own.map(({ id }) => id));
  const scene = useSessionState((state) => state.scene);
  const planes = setAsHere(scene, set, ids);
  const changed = changedIn(set, planes);
  const following = set.users.filter(
    ({ shotId, follow: followed }) => shotId !== shot.id && followed.some((id) => changed.has(id)),
  );
  const follow = (model: readonly Plane[]) =>
    session.commit(
      'follow-set',
      set.name,
      followAgain(session.state.scene, { id: set.id, planes: model }, ids),
    );
  const giveAll = () => give.mutate({ id: set.id, change: { planes, revision: set.revision, author } });
  return (
    <div className="mt-2 rounded-[3px] border border-rule p-2">
      <p>{say.ownCopiesOf(own.map(({ name }) => name).join(', '))}</p>
      {asked ? (
        <>
          <p className="mt-1 text-ink-2">
            {following.length === 0
              ? say.noShotFollows
              : say.shotsFollow(
                  counted(following.length, 'shot'),
                  following.map(({ name }) => name).join(', '),
                )}
          </p>
          <div className="mt-1.5 flex gap-1.5">
            <Button
              tone="strong"
              disabled={give.isPending || unsaved}
              title={unsaved ? uiWords.onceEverythingIsSaved : undefined}
              onClick={giveAll}
            >
              {say.giveToSet}
            </Button>
            <Button onClick={() => setAsked(false)}>{say.cancel}</Button>
          </div>
        </>
      ) : (
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          <Button onClick={() => setAsked(true)}>{say.giveToSetAsk}</Button>
          <Button title={say.followAgainMeans} onClick={() => follow(set.planes)}>
            {say.followAgain}
          </Button>
        </div>
      )}
      {give.isError && (
        <p role="alert" className="mt-1 text-fault">
          {give.error.message}
        </p>
      )}
    </div>
  );
}
