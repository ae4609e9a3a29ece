import { useEffect, useRef } from 'react';
import { useKeepTake } from '../api/takes.ts';
import { editWords } from '../session/edit-words.ts';
import type { Lost } from '../session/shot-link.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { shotWords as say } from '../words/shot.ts';

/** What was lost, to whom, and where it is now. */
function lostWords({ ops, by, why }: Lost): string {
  const [first] = ops;
  const what = ops.length === 1 && first ? editWords(first.entry) : say.unsentEdits(ops.length);
  const cause = by
    ? say.hasChangedTheSame(by.author.name || say.somebody, editWords(by))
    : (why ?? say.somebodyElseHas);
  return say.yourEditCouldNotBe(what, cause);
}

const takeName = ({ ops }: Lost): string => {
  const words = ops[0] ? editWords(ops[0].entry) : '';
  return say.unsentTake(words).slice(0, 200);
};

/** Whether what was lost is kept: only what the server has answered is said to be. */
const KEPT = {
  idle: say.isBeingKeptAsTheTake,
  pending: say.isBeingKeptAsTheTake,
  error: () => say.notKeptAsATakeEither,
  success: say.isKeptAsTheTake,
} as const;

/** Tells of edits that somebody else was faster with. The shot as it was with them is kept as a take. */
export function LostNotice() {
  const session = useSession();
  const lost = useSessionState((state) => state.lost);
  const wipe = useSessionState((state) => state.wipe);
  const kept = useRef(new Set<Lost>());
  const { mutate: keepTake, status } = useKeepTake(session.shot.id);
  useEffect(() => {
    for (const one of lost) {
      if (kept.current.has(one)) continue;
      kept.current.add(one);
      keepTake({ name: takeName(one), note: lostWords(one), scene: one.scene });
    }
  }, [lost, keepTake]);
  const last = lost.at(-1);
  if (!last) return null;
  const beside = { word: takeName(last), scene: last.scene, frame: null, at: 0.5 };
  const compared = wipe?.scene === last.scene;
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-fault bg-raised px-4 py-2">
      <span className="font-semibold text-fault">{say.notSaved}</span>
      <span className="flex-1">
        {lostWords(last)} {KEPT[status](takeName(last))}
      </span>
      <Button on={compared} onClick={() => session.setWipe(compared ? null : beside)}>
        {say.compare}
      </Button>
      <Button
        tone="strong"
        onClick={() => {
          if (compared) session.setWipe(null);
          session.forgetLost();
        }}
      >
        {say.understood}
      </Button>
    </div>
  );
}
