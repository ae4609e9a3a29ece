import type { Take } from '@keen-ridge/core/contract/wall';
import type { Scene } from '@keen-ridge/core/scene';
import { useState } from 'react';
import { toast } from 'sonner';
import { readTakeScene, useKeepTake, useRenameTake, useTakes } from '../../api/takes.ts';
import { sayDone } from '../../edits/undo.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { Rename } from '../../ui/fields/rename.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { moveWords as say } from '../../words/move.ts';

/** Whole set-ups kept by name: to compare with what there is now, and to go back to. Nothing is ever overwritten. */
export function TakesDock() {
  const session = useSession();
  const { id: shotId } = session.shot;
  const takes = useTakes(shotId);
  const keep = useKeepTake(shotId);
  const wipe = useSessionState((state) => state.wipe);
  const [name, setName] = useState('');
  const list = takes.data?.takes ?? [];
  const next = say.takeNumber((list.at(-1)?.number ?? 0) + 1);
  const keepNow = () => {
    keep.mutate(
      { name: name.trim() || next, note: '', scene: session.state.scene },
      { onSuccess: () => toast(say.keptValue(name.trim() || next), { duration: 1500 }) },
    );
    setName('');
  };
  const open = async (take: Take, use: (scene: Scene) => void) => {
    try {
      use(await readTakeScene(take.id));
    } catch (error) {
      toast.error(error instanceof Error ? error.message : say.nameCouldNotBeRead(take.name));
    }
  };
  const restore = (take: Take) =>
    open(take, (scene) => {
      session.setWipe(null);
      const edit = session.commit('restore-take', take.name, scene);
      session.goTo(session.state.frame);
      sayDone(session, say.backToNameWhatWas(take.name), edit);
    });
  const compare = (take: Take) =>
    open(take, (scene) => session.setWipe({ word: take.name, scene, frame: null, at: 0.5 }));
  return (
    <Dock
      id="takes"
      label={list.length > 0 ? say.takesLength(list.length) : say.takes}
      on={wipe?.scene != null}
    >
      {takes.isError && <p className="mb-2 text-fault">{say.theTakesCouldNotBe(takes.error.message)}</p>}
      {list.length === 0 && !takes.isError && <p className="mb-3 text-ink-2">{say.noTakesYetKeepThe}</p>}
      <ul className="mb-3 max-h-64 overflow-auto">
        {list.toReversed().map((take) => (
          <TakeRow
            key={take.id}
            take={take}
            shotId={shotId}
            compared={wipe?.word === take.name}
            onCompare={() => (wipe?.word === take.name ? session.setWipe(null) : void compare(take))}
            onRestore={() => void restore(take)}
          />
        ))}
      </ul>
      <div className="flex items-end gap-1.5">
        <div className="min-w-0 flex-1">
          <TextField
            label={say.keepThisSetUpAs}
            placeholder={next}
            value={name}
            maxLength={200}
            style={{ height: 26 }}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && keepNow()}
          />
        </div>
        <Button tone="strong" disabled={keep.isPending} onClick={keepNow}>
          {say.keep}
        </Button>
      </div>
    </Dock>
  );
}

interface TakeRowProps {
  take: Take;
  shotId: string;
  compared: boolean;
  onCompare: () => void;
  onRestore: () => void;
}

function TakeRow({ take, shotId, compared, onCompare, onRestore }: TakeRowProps) {
  const [renaming, setRenaming] = useState(false);
  const rename = useRenameTake(shotId);
  return (
    <li className="flex items-center gap-1.5 border-b border-rule-light py-1">
      <span className="num w-6 text-right text-ink-2">{take.number}</span>
      {renaming ? (
        <Rename
          className="flex-1"
          name={take.name}
          label={say.nameOfTheTake}
          onRename={(name) => rename.mutate({ id: take.id, name, note: take.note })}
          onEnd={() => setRenaming(false)}
        />
      ) : (
        <button
          type="button"
          className="min-w-0 flex-1 cursor-text truncate text-left"
          title={say.nameKeptValueClickTo(take.name, new Date(take.madeAt).toLocaleString('en-GB'))}
          onClick={() => setRenaming(true)}
        >
          {take.name}
        </button>
      )}
      <Button on={compared} onClick={onCompare}>
        {say.compare}
      </Button>
      <Button onClick={onRestore}>{say.goBack}</Button>
    </li>
  );
}
