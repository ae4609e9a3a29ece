import type { LiveHandoffs } from '../api/use-handoffs.ts';
import { useSession } from '../session/use-session.ts';
import { handoffWords as say } from '../words/handoff.ts';
import { HandoffRow } from './handoff-row.tsx';

/** What is being made and what was made, newest first. */
export function HandoffList({ live: { list, error, isLive } }: { live: LiveHandoffs }) {
  const { shot } = useSession();
  const active = list?.handoffs.filter(({ place }) => place !== null).length ?? 0;
  return (
    <section aria-label={say.handOffs}>
      <div className="flex items-baseline gap-3">
        <h2 className="text-[14px] font-semibold">{say.handedOff}</h2>
        {list && (
          <p className="text-ink-2">
            {list.workers === 0
              ? list.strangers > 0
                ? say.nobodyRendersForThisVersion(list.strangers)
                : say.nobodyRendersNowStartNpm
              : list.workers === 1
                ? say.oneProcessRenders
                : say.workersProcessesRender(list.workers)}
            {active > 0 && say.youMayCloseThisPage}
          </p>
        )}
        {!isLive && (
          <p role="status" className="text-fault">
            {say.theServerDoesNotAnswer}
          </p>
        )}
      </div>
      {error && (
        <p role="alert" className="mt-2 text-fault">
          {say.theListCannotBeRead(error.message)}
        </p>
      )}
      {list?.handoffs.length === 0 && <p className="mt-2 text-ink-2">{say.nothingYetWhatYouHand}</p>}
      <ul className="mt-3 border-t border-rule empty:hidden">
        {list?.handoffs.map((handoff) => (
          <HandoffRow key={handoff.id} handoff={handoff} shotId={shot.id} />
        ))}
      </ul>
    </section>
  );
}
