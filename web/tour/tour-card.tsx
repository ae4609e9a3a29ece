import { X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { endTour, nextStop, STOPS, type TourSight, useTour } from './tour.ts';

const sightOf = (session: Session, step: string): TourSight => ({ state: session.state, step });

/** A stop of the tour: it says what to do, and goes on when that is done. It covers nothing that is needed for it. */
export function TourCard() {
  const session = useSession();
  const step = useLocation().pathname.split('/').at(-1) ?? '';
  const stop = useTour((state) => state.stop);
  const before = useRef<{ readonly stop: number; readonly sight: TourSight } | null>(null);
  useEffect(() => {
    const here = stop === null ? undefined : STOPS[stop];
    if (stop === null || !here) return;
    if (before.current?.stop !== stop) before.current = { stop, sight: sightOf(session, step) };
    const { sight } = before.current;
    const look = () => {
      if (here.done(sightOf(session, step), sight)) nextStop(stop);
    };
    look();
    return session.store.subscribe(look);
  }, [session, step, stop]);
  if (stop === null) return null;
  const here = STOPS[stop];
  return (
    <aside
      aria-label="Tour"
      aria-live="polite"
      className="fixed top-[88px] right-3 z-40 w-[300px] border border-select bg-raised p-4 shadow-lg"
    >
      <div className="flex items-start gap-2">
        <h2 className="flex-1 font-semibold">{here?.title ?? 'That was the tour'}</h2>
        <span className="num text-ink-2">
          {Math.min(stop + 1, STOPS.length)} / {STOPS.length}
        </span>
        <Button tone="bare" icon aria-label="End the tour" className="-mt-1 -mr-2" onClick={endTour}>
          <X size={14} aria-hidden="true" />
        </Button>
      </div>
      <p className="mt-1.5 leading-snug">
        {here?.words ??
          'Now bring your own painting: make a shot on the wall and drop it in. Help in the list of keys (?) has the rest.'}
      </p>
      <div className="mt-3 flex justify-end">
        {here ? (
          <Button onClick={() => nextStop(stop)}>Skip this</Button>
        ) : (
          <Button tone="strong" onClick={endTour}>
            Close
          </Button>
        )}
      </div>
    </aside>
  );
}
