import type { CoarseFill, CutPieces } from '@keen-ridge/core/cut';
import { changeCut, cutPlane, cutStepsOf } from '@keen-ridge/core/edits/art';
import { freeName } from '@keen-ridge/core/edits/planes';
import type { Raster } from '@keen-ridge/core/image';
import type { CutRecipe, Plane } from '@keen-ridge/core/scene';
import { reasonOf } from '@keen-ridge/core/units';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { storePixels } from '../../api/art.ts';
import { CutJob, CutSuperseded } from '../../cut/cut-job.ts';
import { newPlaneId } from '../../edits/art-edits.ts';
import { sayLate } from '../../edits/undo.ts';
import type { Session } from '../../session/session.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { artWords as say } from '../../words/art.ts';
import { CutSurface } from './cut-surface.tsx';
import { SHOWN, type Shown } from './cut-tool.ts';
import { CutTools } from './cut-tools.tsx';
import type { OpenedArt } from './opened-art.ts';
import type { ToolSettings } from './tool-settings.ts';
import { useCutCommands } from './use-cut-commands.ts';
import { useRecipe } from './use-recipe.ts';

const SHOWN_WORDS: Readonly<Record<Shown, string>> = {
  painting: say.thePainting,
  taken: say.whatIsTaken,
  left: say.whatIsLeft,
};
const EMPTY: CutRecipe = { steps: [], featherPx: 0, fill: true, copies: [] };

type Work =
  | { readonly kind: 'idle' }
  | { readonly kind: 'cutting'; readonly share: number }
  | { readonly kind: 'storing' };

interface CutTableProps {
  session: Session;
  plane: Plane;
  opened: OpenedArt;
  image: Raster<'straight'>;
}

/** Where a painting is cut: choose, look at both pieces, mend what is left, and make planes of them. */
export function CutTable({ session, plane, opened, image }: CutTableProps) {
  const navigate = useNavigate();
  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
    };
  }, []);
  const job = useRef<CutJob | null>(null);
  const { recipe, set: setRecipe, back, again } = useRecipe(opened.change?.recipe ?? EMPTY);
  const [name, setName] = useState(
    opened.change ? plane.name : freeName(session.state.scene, `${plane.name} cut`),
  );
  const [settings, setSettings] = useState<ToolSettings>({
    tool: 'lasso',
    mode: 'add',
    tolerance: 24,
    contiguous: true,
    brushPx: Math.max(8, Math.round(image.widthPx / 60)),
  });
  const [mask, setMask] = useState<Uint8Array | null>(null);
  const [pieces, setPieces] = useState<CutPieces | null>(null);
  const [shown, setShown] = useState<Shown>('painting');
  const [work, setWork] = useState<Work>({ kind: 'idle' });
  const [coarse, setCoarse] = useState<CoarseFill | null>(null);
  const [fault, setFault] = useState<string | null>(null);

  useEffect(() => {
    const made = new CutJob(image);
    job.current = made;
    return () => made.close();
  }, [image]);

  const { steps, featherPx } = recipe;
  useEffect(() => {
    if (steps.length === 0) {
      setMask(null);
      return;
    }
    let here = true;
    job.current?.mask(steps, featherPx).then(
      (found) => here && setMask(found),
      (error: unknown) => {
        if (here && !(error instanceof CutSuperseded)) setFault(reasonOf(error));
      },
    );
    return () => {
      here = false;
    };
  }, [steps, featherPx]);

  /** Takes on a recipe: pieces of another one are no longer those of the painting. */
  const take = (next: CutRecipe) => {
    const onlyCopies =
      next.steps === recipe.steps && next.featherPx === recipe.featherPx && next.fill === recipe.fill;
    if (onlyCopies && pieces) void run(next);
    else {
      setPieces(null);
      setShown('painting');
    }
  };
  const change = (part: Partial<CutRecipe>) => {
    const next = { ...recipe, ...part };
    setRecipe(next);
    take(next);
  };
  const run = async (wanted: CutRecipe): Promise<CutPieces | null> => {
    setWork({ kind: 'cutting', share: 0 });
    setFault(null);
    try {
      const found = await job.current?.cut(wanted, (share) => setWork({ kind: 'cutting', share }), setCoarse);
      if (!found) setFault(say.nothingPaintedIsChosenYet);
      setPieces(found ?? null);
      setCoarse(null);
      setWork({ kind: 'idle' });
      return found ?? null;
    } catch (error) {
      // A newer question took its place, or it was stopped: whoever did that says what is under way.
      if (error instanceof CutSuperseded) return null;
      setWork({ kind: 'idle' });
      setFault(reasonOf(error));
      return null;
    }
  };
  const look = async (at: Shown) => {
    if (at !== 'painting' && !pieces && !(await run(recipe))) return;
    setShown(at);
  };
  const addCopy = async (stroke: CutRecipe['copies'][number]) => {
    const next = { ...recipe, copies: [...recipe.copies, stroke] };
    setRecipe(next);
    await run(next);
  };
  const turn = (next: CutRecipe | null, words: string) => {
    if (next) take(next);
    else toast(words, { duration: 2500 });
  };
  useCutCommands({
    onBack: () => turn(back(), say.noStepOfThisCutIsLeft),
    onAgain: () => turn(again(), say.noStepOfThisCutWaits),
  });
  const keep = async () => {
    try {
      const found = pieces ?? (await run(recipe));
      if (!found) return;
      setWork({ kind: 'storing' });
      const [taken, left] = await Promise.all([storePixels(found.taken), storePixels(found.left)]);
      const cutId = opened.change?.cutId ?? crypto.randomUUID();
      const before = opened.change ? (opened.change.before ?? []) : cutStepsOf(plane);
      const result = { cutId, before, from: opened.art, recipe, taken, takenAt: found.takenAt, left };
      const { scene } = session.state;
      const newId = newPlaneId();
      const edit = session.commit(
        'cut-plane',
        plane.name,
        opened.change
          ? changeCut(scene, result)
          : cutPlane(scene, plane.id, newId, name.trim() || `${plane.name} cut`, result),
      );
      // It took its time: whoever has gone elsewhere meanwhile stays there, and is told.
      if (!here.current) {
        sayLate(session, `Cut ${plane.name}`, edit);
        return;
      }
      session.select([opened.change ? plane.id : newId]);
      void navigate('../..', { relative: 'path' });
    } catch (error) {
      const words = reasonOf(error);
      if (!here.current) toast.error(say.nameWasNotCutWords(plane.name, words));
      setFault(words);
      setWork({ kind: 'idle' });
    }
  };
  const stop = () => {
    job.current?.stop();
    setWork({ kind: 'idle' });
  };

  const busy = work.kind !== 'idle';
  return (
    <main className="flex min-h-0 flex-1">
      <CutTools
        settings={settings}
        onSettings={(part) => {
          setSettings((was) => ({ ...was, ...part }));
          if (part.tool === 'copy') void look('left');
          else if (part.tool && shown !== 'painting') setShown('painting');
        }}
        recipe={recipe}
        onRecipe={change}
        onUndoCopy={() => change({ copies: recipe.copies.slice(0, -1) })}
        name={opened.change ? null : name}
        onName={setName}
      />
      <section aria-label={say.painting} className="flex min-h-0 min-w-0 flex-1 flex-col">
        <div className="flex h-[38px] shrink-0 items-center gap-2 border-b border-rule bg-bar px-3">
          <Choice
            label={say.show}
            hideLabel
            options={SHOWN}
            words={SHOWN_WORDS}
            value={shown}
            disabled={(at) => busy || (at !== 'painting' && steps.length === 0)}
            onChange={(at) => void look(at)}
          />
          <span className="min-w-0 flex-1">
            {work.kind === 'cutting' && (
              <progress aria-label={say.filling} className="bar h-1.5 w-40" value={work.share} max={1} />
            )}
            {work.kind === 'storing' && say.storing}
            {fault && (
              <span role="alert" className="text-fault">
                {fault}
              </span>
            )}
          </span>
          {work.kind === 'cutting' && <Button onClick={stop}>{say.stop}</Button>}
          <Button onClick={() => void navigate('../..', { relative: 'path' })}>{say.cancel}</Button>
          <Button tone="strong" disabled={busy || steps.length === 0} onClick={() => void keep()}>
            {opened.change ? say.changeTheCut : say.makeTwoPlanes}
          </Button>
        </div>
        <CutSurface
          image={image}
          mask={shown === 'painting' ? mask : null}
          pieces={pieces}
          coarse={work.kind === 'cutting' ? coarse : null}
          shown={shown}
          settings={settings}
          onStep={(step) => change({ steps: [...steps, step] })}
          onCopy={(stroke) => void addCopy(stroke)}
        />
      </section>
    </main>
  );
}
