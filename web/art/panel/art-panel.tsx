import type { ShelfContent } from '@keen-ridge/core/contract';
import { planesToCarry } from '@keen-ridge/core/edits/planes';
import type { Plane } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { largestScale } from '@keen-ridge/core/survey';
import { findingFrames, findingSentence, findingTitle } from '@keen-ridge/core/words';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { addToShelf, useShelfChange } from '../../api/art.ts';
import { removePlanes } from '../../edits/art-edits.ts';
import { useNames } from '../../edits/names.ts';
import { tellFault } from '../../edits/while-told.ts';
import { usePlaneFindings } from '../../session/survey/use-survey.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { formatNumber } from '../../ui/format.ts';
import { artWords as say } from '../../words/art.ts';
import { CardEditor } from './card-editor.tsx';
import { CopyDialog } from './copy-dialog.tsx';
import { MovingEditor } from './moving-editor.tsx';

/** What can be done to the art of the chosen plane, and whether it is large enough for the move. */
export function ArtPanel() {
  const scene = useShownScene();
  const selection = useSessionState((state) => state.selection);
  const chosen = planesOf(scene).filter((plane) => selection.includes(plane.id));
  const [only] = chosen;
  return (
    <section
      aria-label={say.chosenArt}
      className="h-[252px] shrink-0 overflow-auto border-t border-rule bg-panel px-3.5 py-2.5"
    >
      {chosen.length === 0 ? (
        <p className="text-ink-2">{say.chooseAPlaneToCut}</p>
      ) : chosen.length > 1 || !only ? (
        <ManyPlanes count={chosen.length} />
      ) : (
        <OnePlane key={only.id} plane={only} />
      )}
    </section>
  );
}

function ManyPlanes({ count }: { count: number }) {
  const session = useSession();
  const selection = useSessionState((state) => state.selection);
  return (
    <div className="flex items-center gap-2">
      <h2 className="flex-1 text-[14px] font-semibold">{say.countPlanes(count)}</h2>
      <KeepOnShelf
        name={`${count} planes`}
        content={() => {
          const { scene, frame } = session.state;
          return { kind: 'set', planes: planesToCarry(scene, new Set(selection), frame) };
        }}
      />
      <Button tone="danger" onClick={() => removePlanes(session, selection)}>
        {say.deleteIt}
      </Button>
    </div>
  );
}

/** Puts a plane's art, or a set of planes with their staging, on the production's shelf. */
function KeepOnShelf({ name, content }: { name: string; content: () => ShelfContent }) {
  const { shot } = useSession();
  const keep = useShelfChange(shot.productionId, addToShelf(shot.productionId));
  return (
    <Button
      disabled={keep.isPending}
      onClick={() =>
        keep.mutate(
          { name, content: content(), from: shot.name },
          {
            onSuccess: () => toast(say.nameOnTheArtShelf(name)),
            onError: tellFault,
          },
        )
      }
    >
      {say.keepOnTheShelf}
    </Button>
  );
}

function OnePlane({ plane }: { plane: Plane }) {
  const session = useSession();
  const [copying, setCopying] = useState(false);
  const { content } = plane;
  return (
    <>
      <div className="flex items-center gap-2">
        <h2 className="min-w-0 flex-1 truncate text-[14px] font-semibold">{plane.name}</h2>
        {content.kind === 'still' && (
          <Link to={`cut/${plane.id}`} className={LINK_BUTTON}>
            {say.cut3}
          </Link>
        )}
        {content.kind === 'still' && content.made?.kind === 'cut' && (
          <Link to={`cut/${plane.id}?change`} className={LINK_BUTTON}>
            {say.changeTheCut2}
          </Link>
        )}
        {content.kind === 'shapes' && (
          <Link to={`shapes/${plane.id}`} className={LINK_BUTTON}>
            {say.drawShapes}
          </Link>
        )}
        <Button onClick={() => setCopying(true)}>{say.copy}</Button>
        <KeepOnShelf name={plane.name} content={() => content} />
        <Button tone="danger" onClick={() => removePlanes(session, [plane.id])}>
          {say.deleteIt}
        </Button>
      </div>
      <SizeSentence plane={plane} />
      {content.kind === 'card' && <CardEditor plane={plane} content={content} />}
      {content.kind === 'moving' && <MovingEditor plane={plane} content={content} />}
      {copying && <CopyDialog plane={plane} onClose={() => setCopying(false)} />}
    </>
  );
}

const LINK_BUTTON =
  'inline-flex h-[26px] shrink-0 items-center whitespace-nowrap rounded-[3px] border border-rule bg-raised px-2.5 hover:bg-panel';
/** How large the art is shown by the shot, and what the survey finds wrong with it. */
function SizeSentence({ plane }: { plane: Plane }) {
  const scene = useSessionState((state) => state.scene);
  const scale = useMemo(() => {
    const kept = planeOf(scene, plane.id);
    return kept ? largestScale(scene, kept) : 0;
  }, [scene, plane.id]);
  const wrong = usePlaneFindings(plane.id);
  const names = useNames();
  const exact = plane.content.kind === 'card' || plane.content.kind === 'shapes';
  const { file } = plane.origin ?? { file: null };
  return (
    <p className="narrow mt-1.5 text-[12.5px] leading-snug">
      {file && <span className="text-ink-2">{say.fromFile(file)}</span>}
      {exact ? say.drawnExactlyAtAnySize : scale > 0 && say.shownAtAmountOfIts(formatNumber(scale * 100))}
      {wrong.slice(0, 2).map((finding) => (
        <span key={finding.id}>
          <b className="text-fault">{findingTitle(finding, names)}</b> ({findingFrames(finding)}).{' '}
          {findingSentence(finding)}{' '}
        </span>
      ))}
    </p>
  );
}
