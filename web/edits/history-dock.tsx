import type { History } from '@keen-ridge/core/contract';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { HISTORY_STEPS, useHistory } from '../api/shot.ts';
import { useKeepTake } from '../api/takes.ts';
import type { Session } from '../session/session.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { Dock } from '../ui/dock.tsx';
import { formatWhen } from '../ui/format.ts';
import { editsWords as say } from '../words/edits.ts';
import { sceneAfter, stepWords } from './history-steps.ts';
import { sayDone } from './undo.ts';

/** Everything that was done to the shot, by whom and when: any point is looked at, gone back to, or kept as a take. */
export function HistoryDock() {
  return (
    <Dock id="history" label={say.history}>
      <HistoryList />
    </Dock>
  );
}

function HistoryList() {
  const session = useSession();
  const { id } = session.shot;
  const history = useHistory(id);
  const { refetch } = history;
  // The list is of what was saved, by whomever: it is read again once something else is.
  const kept = useSessionState(({ scene, saveState }) => (saveState === 'saved' ? scene : null));
  const listed = useRef(kept);
  useEffect(() => {
    if (kept === null || kept === listed.current) return;
    listed.current = kept;
    void refetch();
  }, [kept, refetch]);
  // What is looked at is not left over the picture when the dock is folded.
  useEffect(() => () => endLook(session), [session]);
  if (history.isError)
    return (
      <p role="alert" className="text-fault">
        {say.theHistoryCouldNotBe(history.error.message)}
      </p>
    );
  if (!history.data) return <p role="status">{say.reading}</p>;
  const steps = history.data.revisions.toReversed();
  if (steps.length === 0) return <p className="text-ink-2">{say.nothingHasBeenDoneTo}</p>;
  return (
    <>
      <p className="mb-2 text-[12px] text-ink-2">{say.newestFirstChooseALine}</p>
      <ol aria-label={say.whatWasDone} className="-mx-3 border-t border-rule-light">
        {steps.map((step, i) => (
          <PointRow
            key={step.revision}
            history={history.data}
            point={{
              revision: step.revision,
              words: stepWords(step),
              by: step.entry.author.name || 'somebody',
              when: i === 0 ? null : step.entry.at,
            }}
          />
        ))}
        <PointRow
          history={history.data}
          point={{ revision: steps.at(-1)!.revision - 1, words: say.beforeAllOfThis, by: '', when: '' }}
        />
      </ol>
      {steps.length >= HISTORY_STEPS && (
        <p className="mt-2 text-[12px] text-ink-2">{say.whatWasDoneBeforeThat}</p>
      )}
    </>
  );
}

/** The word of a look in the picture: so that a look is told from a take or a frame that is compared. */
const LOOK = say.asItWas;
const endLook = (session: Session) => {
  if (session.state.wipe?.word.startsWith(LOOK)) session.setWipe(null);
};

/** The shot as it was right after a revision. */
interface Point {
  readonly revision: number;
  readonly words: string;
  readonly by: string;
  /** ISO 8601; null: it is how the shot is now. */
  readonly when: string | null;
}

function PointRow({ history, point }: { history: History; point: Point }) {
  const session = useSession();
  const keep = useKeepTake(session.shot.id);
  const { revision, words, by, when } = point;
  const word = `${LOOK}${words} (${revision})`;
  const looked = useSessionState((state) => state.wipe?.word === word);
  /** Gives the scene of this point, or says that it cannot be had. */
  const withScene = (use: (scene: NonNullable<ReturnType<typeof sceneAfter>>) => void) => {
    const scene = sceneAfter(history, revision);
    if (scene) use(scene);
    else toast.error(say.whatWasDoneSinceThen);
  };
  const look = () => {
    if (looked || when === null) return endLook(session);
    withScene((scene) => session.setWipe({ word, scene, frame: null, at: 0 }));
  };
  const goBack = () =>
    withScene((scene) => {
      endLook(session);
      const edit = session.commit('go-back', `“${words}”`.slice(0, 200), scene);
      session.goTo(session.state.frame);
      sayDone(session, say.goneBackWhatWasHere, edit);
    });
  const asTake = () =>
    withScene((scene) =>
      keep.mutate(
        { name: words.slice(0, 200), note: '', scene },
        { onSuccess: () => toast(say.keptAsATake, { duration: 1500 }) },
      ),
    );
  return (
    <li className={classes('border-b border-rule-light', looked && 'bg-panel')}>
      <button
        type="button"
        aria-pressed={looked}
        className="flex w-full cursor-pointer gap-2 px-3 py-1 text-left hover:bg-panel"
        onClick={look}
      >
        <img
          loading="lazy"
          src={`/api/shots/${session.shot.id}/history/${revision}/picture`}
          alt=""
          className="h-9 w-16 shrink-0 bg-[#2e2e2e] object-contain"
        />
        <span className="min-w-0 flex-1">
          <span className="block truncate" title={words}>
            {words}
          </span>
          <span className="num flex gap-2 text-[11px] text-ink-2">
            <span className="truncate">{by}</span>
            <span className="shrink-0">{when === null ? say.now : formatWhen(when)}</span>
          </span>
        </span>
      </button>
      {looked && (
        <div className="flex gap-1.5 px-3 pb-2">
          <Button tone="strong" onClick={goBack}>
            {say.goBackToHere}
          </Button>
          <Button disabled={keep.isPending} onClick={asTake}>
            {say.keepAsATake}
          </Button>
        </div>
      )}
    </li>
  );
}
