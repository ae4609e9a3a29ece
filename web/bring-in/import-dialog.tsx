import { Tabs } from 'radix-ui';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { bringInWords as say } from '../words/bring-in.ts';
import { closeImport, type FileState, type ImportedFile, setImport, useImport } from './import-store.ts';
import { land } from './landing.ts';
import { LookAtPainting } from './look-at-painting.tsx';
import { PaintingTabs } from './painting-tabs.tsx';
import { PlaceFields } from './place-fields.tsx';

/** Progress of an import, then the look at what was read, before it lands. */
export function ImportDialog() {
  const { phase, files, paintings } = useImport();
  const reading = phase === 'reading';
  const title = reading
    ? 'Bringing in art'
    : paintings.length === 0
      ? 'Nothing could be read'
      : 'Look before it lands';
  return (
    <Dialog
      open={phase !== 'closed'}
      onClose={closeImport}
      title={title}
      width={reading || paintings.length === 0 ? 520 : 1120}
      tall={!reading && paintings.length > 0}
    >
      {reading || paintings.length === 0 ? <Files files={files} running={reading} /> : <Look />}
    </Dialog>
  );
}

function Files({ files, running }: { files: readonly ImportedFile[]; running: boolean }) {
  return (
    <>
      <ul className="flex flex-col gap-2.5">
        {files.map((file, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the list is fixed while it is shown, and names may repeat
          <FileLine key={i} file={file} />
        ))}
      </ul>
      <div className="mt-5 flex justify-end">
        <Button onClick={closeImport}>{running ? say.cancel : say.close}</Button>
      </div>
    </>
  );
}

function Look() {
  const session = useSession();
  const { paintings, chosen, files, phase, landed, fault } = useImport();
  const looked = paintings[chosen];
  const failed = files.filter(({ state }) => state.kind === 'failed');
  return (
    <Tabs.Root
      value={String(chosen)}
      onValueChange={(value) => setImport({ chosen: Number(value) })}
      className="flex flex-col gap-3"
    >
      {failed.map((file) => (
        <FileLine key={file.name} file={file} />
      ))}
      {paintings.length > 1 && <PaintingTabs />}
      {looked && (
        <Tabs.Content value={String(chosen)} tabIndex={-1}>
          <LookAtPainting key={chosen} index={chosen} looked={looked} />
        </Tabs.Content>
      )}
      <div className="flex items-end gap-4 border-t border-rule pt-3">
        <PlaceFields />
        <span className="flex-1" />
        {fault && (
          <p role="alert" className="max-w-[320px] text-fault">
            {fault}
          </p>
        )}
        {landed !== null && (
          <span className="w-44">
            {say.makingCutsAgain}
            <progress className="bar h-1.5 w-full" aria-label={say.makingCutsAgain2} value={landed} max={1} />
          </span>
        )}
        <Button onClick={closeImport}>{say.cancel}</Button>
        <Button tone="strong" disabled={phase === 'landing'} autoFocus onClick={() => void land(session)}>
          {phase === 'landing'
            ? say.landing
            : paintings.some((p) => p.asVersion)
              ? say.takeTheNewVersion
              : say.putOnTheStage}
        </Button>
      </div>
    </Tabs.Root>
  );
}

function FileLine({ file: { name, state } }: { file: ImportedFile }) {
  const share =
    state.kind === 'sending'
      ? state.share
      : state.kind === 'reading'
        ? state.done / Math.max(1, state.total)
        : null;
  return (
    <li className="list-none">
      <div className="flex justify-between gap-3">
        <span className="min-w-0 truncate">{name}</span>
        <span className="num shrink-0 text-ink-2">{stateWords(state)}</span>
      </div>
      {share !== null && <progress className="bar h-1.5 w-full" aria-label={name} value={share} max={1} />}
      {state.kind === 'failed' && (
        <p role="alert" className="break-words text-fault">
          {state.reason}
        </p>
      )}
    </li>
  );
}

function stateWords(state: FileState): string {
  switch (state.kind) {
    case 'waiting':
      return 'waiting';
    case 'sending':
      return state.share < 1 ? `sending ${Math.round(state.share * 100)} %` : 'opening …';
    case 'reading':
      return `${state.done} of ${state.total} · ${state.what.slice(0, 40)}`;
    case 'read':
      return 'read';
    case 'failed':
      return 'cannot be read';
  }
}
