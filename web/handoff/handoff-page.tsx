import { Link } from 'react-router';
import { useHandoffs } from '../api/use-handoffs.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { counted } from '../ui/format.ts';
import { handoffWords as say } from '../words/handoff.ts';
import { HandoffForm } from './handoff-form.tsx';
import { HandoffList } from './handoff-list.tsx';
import { OtherWays } from './other-ways.tsx';

/** What the survey has open: told, never in the way. */
function OpenNotice() {
  const { answer, open, isOld } = useSurvey();
  if (!answer || isOld || open.length === 0) return null;
  return (
    <p className="mb-3 border border-fault px-2.5 py-1.5">
      {counted(open.length, 'open finding')}.{' '}
      <Link to="../survey" relative="path" className="text-select underline">
        {open.length === 1 ? say.lookAtItInTheSurvey : say.lookAtThemInTheSurvey}
      </Link>
    </p>
  );
}

/** What leaves: frames, film, stills and packages of the shot as it stands, and the queue of what is being made. */
export function HandoffPage() {
  const { shot } = useSession();
  const live = useHandoffs(shot.id);
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[452px_1fr] overflow-hidden">
      <div className="min-h-0 overflow-auto border-r border-rule px-5 py-4">
        <OpenNotice />
        <HandoffForm filmReady={live.list?.filmReady ?? true} />
      </div>
      <div className="min-h-0 overflow-auto px-6 py-4">
        <HandoffList live={live} />
        <OtherWays />
      </div>
    </main>
  );
}
