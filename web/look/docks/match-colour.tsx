import { hexOfSrgb } from '@keen-ridge/core/paint';
import { planeOf } from '@keen-ridge/core/scene/records';
import { toast } from 'sonner';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { formatNumber } from '../../ui/format.ts';
import { lookWords as say } from '../../words/look.ts';
import { matched, useMatching } from '../matching.ts';

/** Two colours picked in the picture, and the grade that brings the chosen plane from one to the other. */
export function MatchColour() {
  const session = useSession();
  const matching = useMatching();
  const plane = useSessionState((state) =>
    state.selection.length === 1 ? planeOf(state.scene, state.selection[0]) : undefined,
  );
  const { from, to } = matching;
  const match = () => {
    if (!plane || !from || !to) return;
    const { scene, frame } = session.state;
    const { keying } = usePreferences.getState();
    const found = matched(scene, plane.id, { from, to }, { frame, keying });
    if (!found) return;
    session.commit('match-colour', plane.name, found.scene);
    toast(say.matchedWithin(formatNumber(found.grade.leftLevels, 1)), { duration: 2500 });
    useMatching.setState({ from: null, to: null });
  };
  const pick = (which: 'from' | 'to', words: string) => {
    const colour = matching[which];
    return (
      <Button
        on={matching.picking === which}
        title={say.pickIt(words)}
        disabled={!plane}
        onClick={() => useMatching.setState({ picking: matching.picking === which ? null : which })}
      >
        <span
          className="h-3 w-5 shrink-0 border border-ink-3"
          style={{ background: colour ? hexOfSrgb(colour) : 'transparent' }}
        />
        {words}
      </Button>
    );
  };
  return (
    <section aria-label={say.match} className="mt-3 border-t border-rule-light pt-3">
      <h3 className="mb-1.5 font-semibold" title={say.matchMeans}>
        {say.match}
      </h3>
      {!plane && <p className="mb-1.5 text-ink-2">{say.chooseOnePlaneToMatch}</p>}
      <div className="flex flex-wrap gap-1">
        {pick('from', say.from)}
        {pick('to', say.to)}
        <Button disabled={!plane || !from || !to} onClick={match}>
          {say.matchIt}
        </Button>
      </div>
    </section>
  );
}
