import { fileStem } from '@keen-ridge/core/export';
import { planesOf } from '@keen-ridge/core/scene/records';
import { reasonOf } from '@keen-ridge/core/units';
import { useRef, useState } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { formatBytes } from '../ui/format.ts';
import { LinkButton } from '../ui/link-button.tsx';
import { handoffWords as say } from '../words/handoff.ts';

type Quick =
  | { readonly state: 'idle' }
  | { readonly state: 'running'; readonly done: number; readonly total: number }
  | { readonly state: 'done'; readonly url: string; readonly fileName: string; readonly bytes: number }
  | { readonly state: 'failed'; readonly reason: string };

/** A film of the whole shot made in this page: to look at or to send, without the server. */
export function QuickFilmControls() {
  const { shot } = useSession();
  const scene = useSessionState((state) => state.scene);
  const [quick, setQuick] = useState<Quick>({ state: 'idle' });
  const abort = useRef<AbortController | null>(null);
  const total = scene.lengthFrames;
  const make = async () => {
    const controller = new AbortController();
    abort.current = controller;
    if (quick.state === 'done') URL.revokeObjectURL(quick.url);
    setQuick({ state: 'running', done: 0, total });
    try {
      const { quickFilm } = await import('./quick-film.ts');
      const { blob, extension } = await quickFilm({
        scene,
        firstFrame: 1,
        lastFrame: total,
        signal: controller.signal,
        onFrame: (done) => setQuick({ state: 'running', done, total }),
      });
      const fileName = `${fileStem(shot.name)}_quick.${extension}`;
      setQuick({ state: 'done', url: URL.createObjectURL(blob), fileName, bytes: blob.size });
    } catch (error) {
      if (controller.signal.aborted) setQuick({ state: 'idle' });
      else setQuick({ state: 'failed', reason: reasonOf(error) });
    }
  };
  return (
    <section aria-label={say.quickFilm}>
      <h2 className="text-[14px] font-semibold">{say.aQuickFilm}</h2>
      <p className="text-ink-2">{say.renderedAndEncodedInThis}</p>
      <div className="mt-1.5 flex items-center gap-3">
        {quick.state === 'running' ? (
          <>
            <progress
              className="bar h-1.5 w-64"
              aria-label={say.framesOfTheQuickFilm}
              value={quick.done}
              max={quick.total}
            />
            <span className="num">
              {quick.done} / {quick.total}
            </span>
            <Button onClick={() => abort.current?.abort(new Error('Given up'))}>{say.cancel}</Button>
          </>
        ) : (
          <Button disabled={planesOf(scene).length === 0} onClick={() => void make()}>
            {say.makeAQuickFilm}
          </Button>
        )}
        {quick.state === 'done' && (
          <LinkButton href={quick.url} download={quick.fileName}>
            {say.saveFileNameBytes(quick.fileName, formatBytes(quick.bytes))}
          </LinkButton>
        )}
      </div>
      {quick.state === 'failed' && (
        <p role="alert" className="mt-1.5 text-fault">
          {quick.reason}
        </p>
      )}
    </section>
  );
}
