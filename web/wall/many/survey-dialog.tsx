import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { readCounts } from '../../api/many.ts';
import { Dialog } from '../../ui/dialog.tsx';
import { counted } from '../../ui/format.ts';
import { wallWords as say } from '../../words/wall.ts';

/** What the survey has to say of one shot after another; leaving ends it. */
export function SurveyDialog({ shots, onClose }: { shots: readonly ShotCard[]; onClose: () => void }) {
  const [found, setFound] = useState<ReadonlyMap<string, string>>(new Map());
  useEffect(() => {
    const gone = new AbortController();
    const survey = async () => {
      for (const { id } of shots) {
        const words = await readCounts(id, gone.signal).then(
          ({ open, leftSo, advice }) =>
            [
              open === 0 ? say.nothingOpen : counted(open, 'open finding'),
              leftSo > 0 && say.leftSoCounted(leftSo),
              advice > 0 && say.adviceCounted(advice),
            ]
              .filter((part) => part !== false)
              .join(' · '),
          (error: Error) => error.message,
        );
        if (gone.signal.aborted) return;
        setFound((was) => new Map(was).set(id, words));
      }
    };
    void survey();
    return () => gone.abort();
  }, [shots]);
  return (
    <Dialog open onClose={onClose} title={say.surveyOf(counted(shots.length, 'shot'))}>
      <progress
        className="bar h-1.5 w-full"
        aria-label={say.shotsSurveyed}
        value={found.size}
        max={shots.length}
      />
      <ul className="mt-3">
        {shots.map(({ id, name }) => (
          <li key={id} className="flex items-center gap-3 border-b border-rule py-1.5">
            <Link to={`/shots/${id}/survey`} className="min-w-0 flex-1 truncate text-select underline">
              {name}
            </Link>
            <span className="num text-ink-2">{found.get(id) ?? '…'}</span>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
