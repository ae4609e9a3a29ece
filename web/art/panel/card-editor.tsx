import { coverCard } from '@keen-ridge/core/edits/art';
import type { Paint } from '@keen-ridge/core/paint';
import type { Content, Plane } from '@keen-ridge/core/scene';
import { contentTrial } from '../../edits/art-edits.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { setOnce, trialOf } from '../../ui/trial.ts';
import { artWords as say } from '../../words/art.ts';
import { PaintEditor } from './paint-editor.tsx';

/** The paint and size of a card, changed in place. */
export function CardEditor({
  plane,
  content,
}: {
  plane: Plane;
  content: Extract<Content, { kind: 'card' }>;
}) {
  const session = useSession();
  const resize = (part: { widthPx?: number; heightPx?: number }) =>
    setOnce(contentTrial(session, plane.id), { ...content, ...part });
  return (
    <div className="mt-2 grid grid-cols-[1fr_110px] gap-4">
      <PaintEditor
        paint={content.paint}
        trial={trialOf(contentTrial(session, plane.id), (paint: Paint): Content => ({ ...content, paint }))}
      />
      <div className="flex flex-col gap-1.5">
        <NumberField
          label={say.width}
          unit="px"
          min={1}
          max={1e6}
          value={content.widthPx}
          onCommit={(widthPx) => resize({ widthPx })}
        />
        <NumberField
          label={say.height}
          unit="px"
          min={1}
          max={1e6}
          value={content.heightPx}
          onCommit={(heightPx) => resize({ heightPx })}
        />
        <Button
          title={say.sizesAndPlacesTheCard}
          onClick={() => session.commit('set-content', plane.name, coverCard(session.state.scene, plane.id))}
        >
          {say.coverTheMove}
        </Button>
      </div>
    </div>
  );
}
