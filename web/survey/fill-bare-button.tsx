import { repainted } from '@keen-ridge/core/edits/art';
import { planeOf } from '@keen-ridge/core/scene/records';
import type { FindingOf } from '@keen-ridge/core/survey';
import { findingTitle } from '@keen-ridge/core/words';
import { useEffect, useRef, useState } from 'react';
import { storePixels } from '../api/art.ts';
import { CutJob } from '../cut/cut-job.ts';
import { useNames } from '../edits/names.ts';
import { tellFault } from '../edits/while-told.ts';
import { fetchPixels } from '../picture/live/art-loader.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { surveyWords as say } from '../words/survey.ts';

/** Paints what is bare from what is painted round about, as one edit; pressed again meanwhile it is cancelled. */
export function FillBareButton({ finding, disabled }: { finding: FindingOf<'reveal'>; disabled: boolean }) {
  const session = useSession();
  const names = useNames();
  const { answer } = useSurvey();
  const [share, setShare] = useState<number | null>(null);
  const run = useRef<AbortController | null>(null);
  useEffect(() => () => run.current?.abort(), []);
  const { planeId } = finding;
  const plane = planeOf(session.state.scene, planeId);
  // Cards and shapes are not painted, and of what moves every drawing would be another.
  if (plane?.content.kind !== 'still') return null;
  const { art } = plane.content;
  const fill = async (signal: AbortSignal) => {
    const pixels = await fetchPixels(art);
    signal.throwIfAborted();
    const job = new CutJob(pixels);
    signal.addEventListener('abort', () => job.close(), { once: true });
    try {
      const filled = await job.fill(answer?.bare.get(planeId) ?? [], setShare);
      signal.throwIfAborted();
      if (!filled) return;
      const stored = await storePixels(filled);
      signal.throwIfAborted();
      const { scene } = session.state;
      const now = planeOf(scene, planeId);
      // Somebody may have painted it otherwise meanwhile.
      if (now?.content.kind === 'still' && now.content.art.id === art.id)
        session.commit('cure', findingTitle(finding, names), repainted(scene, planeId, stored));
    } finally {
      job.close();
    }
  };
  const press = () => {
    run.current?.abort();
    if (share !== null) {
      setShare(null);
      return;
    }
    const mine = new AbortController();
    run.current = mine;
    setShare(0);
    fill(mine.signal)
      .catch((error: unknown) => {
        if (!mine.signal.aborted) tellFault(error);
      })
      .finally(() => {
        if (!mine.signal.aborted) setShare(null);
      });
  };
  return (
    <Button disabled={disabled} onClick={press}>
      {share === null ? say.fillFromAround : say.fillingCancel(Math.round(share * 100))}
    </Button>
  );
}
