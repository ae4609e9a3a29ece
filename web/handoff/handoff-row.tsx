import type { Handoff, HandoffState } from '@keen-ridge/core/contract';
import { assertNever } from '@keen-ridge/core/units';
import { cancelHandoff, useHandoffChange } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { formatBytes, formatNumber } from '../ui/format.ts';

export function HandoffRow({
  handoff,
  shotId,
  kindWord,
}: {
  handoff: Handoff;
  shotId: string;
  kindWord: string;
}) {
  const cancel = useHandoffChange(shotId, cancelHandoff);
  const { progress, request, id } = handoff;
  const under = progress.state === 'queued' || progress.state === 'running';
  const time = new Date(handoff.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return (
    <li className="grid grid-cols-[1fr_auto] items-center gap-x-4 border-b border-rule py-3">
      <div className="min-w-0">
        <p>
          <span className="font-semibold">{kindWord}</span>{' '}
          <span className="num text-ink-2">
            {request.firstFrame}–{request.lastFrame} · {time}
          </span>
        </p>
        <ProgressWords progress={progress} />
      </div>
      {under && <Button onClick={() => cancel.mutate(id)}>Cancel</Button>}
      {progress.state === 'done' && (
        <a
          className="inline-flex h-[26px] items-center rounded-[3px] border border-rule bg-raised px-2.5 hover:bg-panel"
          href={`/api/handoffs/${id}/file`}
          download={progress.fileName}
        >
          Download
        </a>
      )}
    </li>
  );
}

function ProgressWords({ progress }: { progress: HandoffState }) {
  switch (progress.state) {
    case 'queued':
      return (
        <p role="status" className="text-ink-2">
          Waiting its turn
        </p>
      );
    case 'running':
      return (
        <div role="status" className="mt-1 flex items-center gap-3">
          <progress
            className="h-1.5 flex-1 accent-[#0b6e75]"
            aria-label="Frames done"
            value={progress.done}
            max={progress.total}
          />
          <span className="num">
            {progress.done} / {progress.total}
          </span>
        </div>
      );
    case 'done':
      return (
        <p className="num text-ink-2">
          {progress.fileName} · {formatBytes(progress.bytes)} · took {formatNumber(progress.seconds, 1)} s
        </p>
      );
    case 'failed':
      return (
        <p role="alert" className="text-fault">
          Failed: {progress.reason}
        </p>
      );
    case 'cancelled':
      return <p className="text-ink-2">Cancelled; nothing was kept.</p>;
    default:
      return assertNever(progress);
  }
}
