import type { LiveHandoffs } from '../api/use-handoffs.ts';
import { useSession } from '../session/use-session.ts';
import { HandoffRow } from './handoff-row.tsx';

/** What is being made and what was made, newest first. */
export function HandoffList({ live: { list, error, isLive } }: { live: LiveHandoffs }) {
  const { shot } = useSession();
  const active = list?.handoffs.filter(({ place }) => place !== null).length ?? 0;
  return (
    <section aria-label="Hand-offs">
      <div className="flex items-baseline gap-3">
        <h2 className="text-[14px] font-semibold">Handed off</h2>
        {list && (
          <p className="text-ink-2">
            {list.workers === 0
              ? list.strangers > 0
                ? `Nobody renders for this version: ${list.strangers} of another version do. Start npm run worker from this one.`
                : 'Nobody renders now: start npm run worker.'
              : list.workers === 1
                ? 'One process renders.'
                : `${list.workers} processes render.`}
            {active > 0 && ' You may close this page; it goes on.'}
          </p>
        )}
        {!isLive && (
          <p role="status" className="text-fault">
            The server does not answer; what is shown may be old.
          </p>
        )}
      </div>
      {error && (
        <p role="alert" className="mt-2 text-fault">
          The list cannot be read: {error.message}
        </p>
      )}
      {list?.handoffs.length === 0 && (
        <p className="mt-2 text-ink-2">Nothing yet. What you hand off stays here, ready to download.</p>
      )}
      <ul className="mt-3 border-t border-rule empty:hidden">
        {list?.handoffs.map((handoff) => (
          <HandoffRow key={handoff.id} handoff={handoff} shotId={shot.id} />
        ))}
      </ul>
    </section>
  );
}
