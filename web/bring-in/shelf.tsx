import type { ShelfContent } from '@keen-ridge/core/contract';
import { X } from 'lucide-react';
import { toast } from 'sonner';
import { putBackOnShelf, takeOffShelf, useShelf, useShelfChange } from '../api/art.ts';
import { takeFromShelf } from '../edits/carry-planes.ts';
import { tellFault } from '../edits/while-told.ts';
import { PlaneThumbnail } from '../planes/plane-thumbnail.tsx';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { bringInWords as say } from '../words/bring-in.ts';

/** Marks a drag as one of a shelf piece; the text is its id. */
export const SHELF_DRAG = 'application/x-keen-ridge-shelf-piece';

/** The production's art shelf: drag a piece on the picture or the stack, or click it. */
export function Shelf() {
  const session = useSession();
  const { productionId } = session.shot;
  const shelf = useShelf(productionId);
  const putBack = useShelfChange(productionId, putBackOnShelf);
  const takeOff = useShelfChange(productionId, takeOffShelf);
  const pieces = shelf.data?.pieces ?? [];
  return (
    <section aria-label={say.artShelf} className="shrink-0 border-b border-rule bg-panel px-3 py-2">
      {shelf.isError ? (
        <p role="alert" className="text-fault">
          {shelf.error.message}
        </p>
      ) : pieces.length === 0 ? (
        <p className="text-ink-2">{shelf.isPending ? say.lookingAtTheShelf : say.nothingOnTheShelfYet}</p>
      ) : (
        <ul className="flex gap-2 overflow-x-auto">
          {pieces.map((piece) => (
            <li key={piece.id} className="group relative w-[88px] shrink-0">
              <button
                type="button"
                draggable
                title={say.fromFromClickOrDrag(piece.from)}
                className="block w-full cursor-grab text-left"
                onDragStart={(event) => event.dataTransfer.setData(SHELF_DRAG, piece.id)}
                onClick={() => takeFromShelf(session, piece)}
              >
                <PiecePicture content={piece.content} />
                <span className="block truncate text-[12px]">{piece.name}</span>
              </button>
              <Button
                tone="bare"
                icon
                aria-label={say.takeNameOffTheShelf(piece.name)}
                className="absolute right-0 top-0 h-5! w-5! bg-raised! opacity-0 focus-visible:opacity-100 group-hover:opacity-100"
                onClick={() =>
                  takeOff.mutate(piece.id, {
                    onError: tellFault,
                    onSuccess: () =>
                      toast(say.nameIsOffTheShelf(piece.name), {
                        action: {
                          label: say.putBack,
                          onClick: () => putBack.mutate(piece.id, { onError: tellFault }),
                        },
                      }),
                  })
                }
              >
                <X size={12} aria-hidden="true" />
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const MOST_SHOWN = 3;

/** A plane's picture; of a set those of its nearest planes, one over the other. */
function PiecePicture({ content }: { content: ShelfContent }) {
  if (content.kind !== 'set') return <PlaneThumbnail content={content} className="h-[50px] w-full" />;
  const shown = content.planes.slice(0, MOST_SHOWN).toReversed();
  return (
    <span className="relative block h-[50px] w-full">
      {shown.map((plane, i) => (
        <span
          key={plane.id}
          className="absolute outline outline-1 outline-rule"
          style={{
            left: 6 * i,
            top: 4 * i,
            right: 6 * (shown.length - 1 - i),
            bottom: 4 * (shown.length - 1 - i),
          }}
        >
          <PlaneThumbnail content={plane.content} className="h-full w-full" />
        </span>
      ))}
    </span>
  );
}
