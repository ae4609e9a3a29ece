import type { Handoff, HandoffState } from '@keen-ridge/core/contract';
import { assertNever } from '@keen-ridge/core/units';
import { cancelHandoff, moveHandoff, useHandoffChange } from '../api/use-handoffs.ts';
import { Button } from '../ui/button.tsx';
import { counted, formatBytes, formatNumber } from '../ui/format.ts';
import { handoffWords as say } from '../words/handoff.ts';
import { DoneActions } from './done-actions.tsx';
import { KIND_WORDS } from './kind-words.ts';

export function HandoffRow({ handoff, shotId }: { handoff: Handoff; shotId: string }) {
  const cancel = useHandoffChange(shotId, cancelHandoff);
  const move = useHandoffChange(shotId, moveHandoff);
  const { progress, request, id, place } = handoff;
  const time = madeWords(new Date(handoff.at));
  const marks = request ? marksOf(request) : ['asked for by another version of the program'];
  return (
    <li className="grid grid-cols-[1fr_auto] items-center gap-x-4 border-b border-rule py-2.5">
      <div className="min-w-0">
        <p>
          <span className="font-semibold">{request ? KIND_WORDS[request.kind].word : say.handOff}</span>{' '}
          <span className="num text-ink-2">{[...marks, time].join(' · ')}</span>
        </p>
        <ProgressWords progress={progress} place={place} />
      </div>
      {place !== null && (
        <div className="flex gap-1">
          {progress.state === 'queued' && (
            <>
              <Button title={say.beforeTheOneAheadOf} onClick={() => move.mutate({ id, way: 'sooner' })}>
                {say.sooner}
              </Button>
              <Button title={say.behindTheNextOne} onClick={() => move.mutate({ id, way: 'later' })}>
                {say.later}
              </Button>
            </>
          )}
          <Button onClick={() => cancel.mutate(id)}>{say.cancel}</Button>
        </div>
      )}
      {place === null && <DoneActions handoff={handoff} shotId={shotId} />}
      {(move.isError || cancel.isError) && (
        <p role="alert" className="col-span-2 text-fault">
          {(move.error ?? cancel.error)?.message}
        </p>
      )}
    </li>
  );
}

/** `27 Nov, 14:05`; with the year where it is another one. */
const madeWords = (at: Date): string =>
  at.toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    ...(at.getFullYear() === new Date().getFullYear() ? {} : { year: 'numeric' }),
    hour: '2-digit',
    minute: '2-digit',
  });

const marksOf = (request: NonNullable<Handoff['request']>): string[] =>
  [
    `${request.firstFrame}–${request.lastFrame}`,
    request.handles > 0 && `± ${request.handles}`,
    request.scale !== 1 && `${formatNumber(request.scale * 100, 0)} %`,
    request.depth === 16 && '16 bit',
    request.planes === 'each' && 'plane by plane',
    request.pass !== 'picture' && request.pass.replace('-', ', '),
    request.burnIn && 'burnt in',
    request.pins && 'pins',
    request.sound && 'sound',
    !request.looks && 'without looks',
    request.chosen && `${counted(request.chosen.ids.length, 'plane')} ${request.chosen.shown}`,
    request.take !== '' && request.take,
  ].filter((mark) => typeof mark === 'string');

/** `about 40 s left`, `about 3 min left`. */
const timeLeft = (seconds: number): string =>
  seconds < 90 ? `about ${Math.ceil(seconds)} s left` : `about ${Math.round(seconds / 60)} min left`;

function ProgressWords({ progress, place }: { progress: HandoffState; place: number | null }) {
  switch (progress.state) {
    case 'queued':
      return (
        <p role="status" className="text-ink-2">
          {say.waitingItsTurn}
          {place !== null && say.numberPlaceInTheQueue(place)}
        </p>
      );
    case 'running':
      return (
        <div role="status" className="mt-1 flex items-center gap-3">
          <progress
            className="bar h-1.5 flex-1"
            aria-label={say.framesDone}
            value={progress.done}
            max={progress.total}
          />
          <span className="num whitespace-nowrap">
            {progress.done} / {progress.total}
          </span>
          <span className="whitespace-nowrap text-ink-2">
            {progress.secondsLeft === null
              ? say.renderedRendered(progress.rendered)
              : timeLeft(progress.secondsLeft)}
          </span>
        </div>
      );
    case 'done':
      return (
        <p className="num break-words text-ink-2">
          {progress.folder ?? `${progress.fileName} · ${formatBytes(progress.bytes)}`}
          {say.took} {formatNumber(progress.seconds, 1)} s
          {progress.reused > 0 &&
            (progress.reused === progress.total
              ? say.nothingHadChangedNothingWas
              : say.reusedOfTotalWereThere(progress.reused, progress.total))}
        </p>
      );
    case 'failed':
      return (
        <p role="alert" className="text-fault">
          {say.failedReason(progress.reason)}
        </p>
      );
    case 'cancelled':
      return <p className="text-ink-2">{say.cancelledWhatWasRenderedIs}</p>;
    default:
      return assertNever(progress);
  }
}
