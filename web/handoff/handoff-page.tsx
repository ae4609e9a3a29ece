import { useHandoffs } from '../api/use-handoffs.ts';
import { useSession } from '../session/use-session.ts';
import { HandoffForm } from './handoff-form.tsx';
import { HandoffList } from './handoff-list.tsx';
import { OtherWays } from './other-ways.tsx';

/** What leaves: frames, film, stills and packages of the shot as it stands, and the queue of what is being made. */
export function HandoffPage() {
  const { shot } = useSession();
  const live = useHandoffs(shot.id);
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[452px_1fr] overflow-hidden">
      <div className="min-h-0 overflow-auto border-r border-rule px-5 py-4">
        <HandoffForm filmReady={live.list?.filmReady ?? true} />
      </div>
      <div className="min-h-0 overflow-auto px-6 py-4">
        <HandoffList live={live} />
        <OtherWays />
      </div>
    </main>
  );
}
