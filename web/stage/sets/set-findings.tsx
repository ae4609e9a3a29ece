import type { ProductionSet, SetChanged } from '@keen-ridge/core/contract/sets';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { readSetFindings } from '../../api/sets.ts';
import { counted } from '../../ui/format.ts';
import { stageWords as say } from '../../words/stage.ts';

/** What became of the shots that follow a set when it was changed, and what the survey sees in each now. */
export function SetFindingsList({ set, changed }: { set: ProductionSet; changed: SetChanged }) {
  const found = useQuery({
    queryKey: ['set-findings', set.id, changed.revision],
    queryFn: () => readSetFindings(set.id),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <div role="status" className="mt-2">
      <p>{say.haveFollowed(counted(changed.followed.length, 'shot'))}</p>
      {changed.left.map(({ shotId, name, why }) => (
        <p key={shotId} className="text-fault">
          {say.couldNotFollow(name, why)}
        </p>
      ))}
      {found.isPending && <p className="text-ink-2">{say.surveyingThem}</p>}
      {found.isError && <p className="text-fault">{found.error.message}</p>}
      <ul>
        {found.data?.shots.map(({ shotId, name, open }) => (
          <li key={shotId}>
            <Link to={`/shots/${shotId}/survey`} className="text-select underline">
              {name}
            </Link>{' '}
            <span className="text-ink-2">{open === 0 ? say.nothingOpen : counted(open, 'open finding')}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
