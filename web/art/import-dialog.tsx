import { useSession } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { closeImport, type FileState, type ImportedFile, landFiles, useImport } from './import-art.ts';

/** Progress of an import, and afterwards whatever the artist has to know about it. */
export function ImportDialog() {
  const session = useSession();
  const { files, open, running } = useImport();
  const failed = files.filter(({ state }) => state.kind === 'failed').length;
  const read = files.length - failed;
  const title = running
    ? 'Bringing in art'
    : failed === 0
      ? 'On the stage, with notes'
      : failed === files.length
        ? 'Nothing could be read'
        : `${failed} of ${files.length} files could not be read`;
  return (
    <Dialog open={open} onClose={closeImport} title={title} width={520}>
      <ul className="flex flex-col gap-2.5">
        {files.map((file, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the list is fixed while it is shown, and names may repeat
          <FileLine key={i} file={file} />
        ))}
      </ul>
      <div className="mt-5 flex justify-end gap-2">
        {!running && failed > 0 && read > 0 && (
          <Button tone="strong" onClick={() => landFiles(session)}>
            Add the other {read === 1 ? 'file' : `${read} files`}
          </Button>
        )}
        <Button onClick={closeImport}>
          {running ? 'Cancel' : failed > 0 && read > 0 ? 'Add nothing' : 'Close'}
        </Button>
      </div>
    </Dialog>
  );
}

function FileLine({ file: { name, state } }: { file: ImportedFile }) {
  return (
    <li>
      <div className="flex justify-between gap-3">
        <span className="truncate">{name}</span>
        <span className="num shrink-0 text-ink-2">{stateWords(state)}</span>
      </div>
      {state.kind === 'sending' && (
        <progress className="h-1.5 w-full accent-[#0b6e75]" aria-label={name} value={state.share} max={1} />
      )}
      {state.kind === 'failed' && (
        <p role="alert" className="text-fault">
          {state.reason}
        </p>
      )}
      {state.kind === 'read' &&
        state.notKept.map((sentence) => (
          <p key={sentence} className="text-ink-2">
            {sentence}
          </p>
        ))}
    </li>
  );
}

function stateWords(state: FileState): string {
  switch (state.kind) {
    case 'waiting':
      return 'waiting';
    case 'sending':
      return state.share < 1 ? `sending ${Math.round(state.share * 100)} %` : 'reading …';
    case 'read':
      return state.layers.length === 1 ? '1 layer' : `${state.layers.length} layers`;
    case 'failed':
      return 'cannot be read';
  }
}
