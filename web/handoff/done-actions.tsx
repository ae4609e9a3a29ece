import type { Handoff, HandoffRequest, HandoffState } from '@keen-ridge/core/contract';
import { HANDOFF_FORMATS } from '@keen-ridge/core/export';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import {
  askHandoff,
  deleteHandoff,
  readFrameNames,
  renameHandoff,
  useHandoffChange,
} from '../api/use-handoffs.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { LinkButton } from '../ui/link-button.tsx';
import { handoffWords as say } from '../words/handoff.ts';

/** How a page shows a finished file; null where it cannot. */
function shownAs({
  kind,
  depthFile,
}: Pick<HandoffRequest, 'kind' | 'depthFile'>): 'film' | 'picture' | 'frames' | null {
  // No browser shows OpenEXR.
  if (HANDOFF_FORMATS[kind].made === 'frames') return depthFile === 'png' ? 'frames' : null;
  if (HANDOFF_FORMATS[kind].made === 'sheet' || kind === 'gif' || kind === 'apng') return 'picture';
  return HANDOFF_FORMATS[kind].made === 'film' && kind !== 'ffv1' ? 'film' : null;
}

type Done = Extract<HandoffState, { state: 'done' }>;

interface DoneActionsProps {
  handoff: Handoff;
  shotId: string;
}

/** What can be done with a hand-off that has ended: look at it, take it, ask for it again, name it, put it away. */
export function DoneActions({ handoff, shotId }: DoneActionsProps) {
  const { id, progress, request } = handoff;
  const again = useHandoffChange(shotId, askHandoff(shotId));
  const remove = useHandoffChange(shotId, deleteHandoff);
  const [open, setOpen] = useState<'name' | 'view' | null>(null);
  const done = progress.state === 'done' ? progress : null;
  const view = request && done && done.folder === null ? shownAs(request) : null;
  const toggle = (what: 'name' | 'view') => setOpen(open === what ? null : what);
  const fault = again.error ?? remove.error;
  return (
    <>
      <div className="flex flex-wrap justify-end gap-1">
        {view && (
          <Button on={open === 'view'} onClick={() => toggle('view')}>
            {view === 'film' ? say.playIt : say.show}
          </Button>
        )}
        {done && done.folder === null && (
          <LinkButton href={`/api/handoffs/${id}/file`} download={done.fileName}>
            {say.download}
          </LinkButton>
        )}
        {request && (
          <Button title={say.againMeans} disabled={again.isPending} onClick={() => again.mutate(request)}>
            {say.again}
          </Button>
        )}
        {done && (
          <Button on={open === 'name'} onClick={() => toggle('name')}>
            {say.rename}
          </Button>
        )}
        <Button disabled={remove.isPending} onClick={() => remove.mutate(id)}>
          {say.deleteIt}
        </Button>
      </div>
      {open === 'name' && done && (
        <NewName shotId={shotId} id={id} done={done} onDone={() => setOpen(null)} />
      )}
      {open === 'view' && request && done && <View id={id} request={request} fileName={done.fileName} />}
      {fault && (
        <p role="alert" className="col-span-2 text-fault">
          {fault.message}
        </p>
      )}
    </>
  );
}

function View({ id, request, fileName }: { id: string; request: HandoffRequest; fileName: string }) {
  const address = `/api/handoffs/${id}/film`;
  const room = 'col-span-2 mt-2 max-h-[50vh] max-w-full bg-black';
  if (shownAs(request) === 'frames') return <Frames id={id} />;
  return shownAs(request) === 'film' ? (
    // biome-ignore lint/a11y/useMediaCaption: a film of the shot has no speech
    <video className={room} src={address} aria-label={fileName} controls autoPlay loop />
  ) : (
    <img className={room} src={address} alt={fileName} />
  );
}

/** The frames of a finished hand-off, one at a time, along a slider. */
function Frames({ id }: { id: string }) {
  const frames = useQuery({ queryKey: ['handoff-frames', id], queryFn: () => readFrameNames(id) });
  const [index, setIndex] = useState(0);
  const names = frames.data?.names ?? [];
  if (frames.isError) return <p className="col-span-2 text-fault">{frames.error.message}</p>;
  if (names.length === 0) return null;
  return (
    <div className="col-span-2 mt-2">
      <img
        className="max-h-[50vh] max-w-full border border-rule bg-[#808080]"
        src={`/api/handoffs/${id}/frames/${index}`}
        alt={names[index] ?? ''}
      />
      <input
        type="range"
        aria-label={say.frameOfTheHandOff}
        className="mt-1.5 w-full"
        min={0}
        max={names.length - 1}
        value={index}
        onChange={(event) => setIndex(Number(event.target.value))}
      />
      <p className="num truncate text-ink-2">{names[index]}</p>
    </div>
  );
}

function NewName({
  shotId,
  id,
  done,
  onDone,
}: {
  shotId: string;
  id: string;
  done: Done;
  onDone: () => void;
}) {
  const rename = useHandoffChange(shotId, renameHandoff);
  const [name, setName] = useState(done.fileName.replace(/\.[^.]+$/, ''));
  return (
    <form
      className="col-span-2 mt-2 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        rename.mutate({ id, name }, { onSuccess: onDone });
      }}
    >
      <div className="flex-1">
        <TextField
          label={say.nameOfTheFile}
          value={name}
          maxLength={200}
          fault={rename.error?.message}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <Button type="submit" className="h-[30px]" disabled={name.trim() === '' || rename.isPending}>
        {say.rename}
      </Button>
    </form>
  );
}
