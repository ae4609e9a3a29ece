import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { memberKeys, onlyStill, SET_KINDS, type SetKind } from '@keen-ridge/core/art/landing';
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react';
import { ArtThumbnail } from '../planes/plane-thumbnail.tsx';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { bringInWords as say } from '../words/bring-in.ts';
import { changePainting, changeSet, type LookedAtSet, toggled } from './import-store.ts';

const KIND_WORDS: Readonly<Record<SetKind, string>> = {
  layers: say.layersOfOnePainting,
  moving: say.drawingsOfOneMovingPlane,
};

/** What separate pictures of one size are: layers, or drawings one after the other. It can be changed after landing too. */
export function SetKindChoice({ index, set }: { index: number; set: LookedAtSet }) {
  const session = useSession();
  return (
    <div className="flex flex-wrap gap-1">
      <Choice
        label={say.whatThePicturesAre}
        hideLabel
        options={SET_KINDS}
        words={KIND_WORDS}
        value={set.kind}
        onChange={(kind) => changeSet(session, index, { kind })}
      />
      <span className="flex-1" />
      <Button onClick={() => changeSet(session, index, { members: set.members.toReversed() })}>
        {say.turnTheOrderRound}
      </Button>
    </div>
  );
}

/** The pictures of a set in their order, to drag into another one: on top first, or the first in time first. */
export function SetList({
  index,
  set,
  left,
}: {
  index: number;
  set: LookedAtSet;
  left: ReadonlySet<string>;
}) {
  const session = useSession();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const keys = memberKeys(set.members);
  const move = (from: number, to: number) => {
    if (from < 0 || to < 0 || to >= keys.length || from === to) return;
    changeSet(session, index, { members: arrayMove([...set.members], from, to) });
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over) move(keys.indexOf(String(active.id)), keys.indexOf(String(over.id)));
  };
  return (
    <>
      <p className="border-b border-rule-light px-2 py-1 text-[12px] text-ink-2">
        {set.kind === 'layers' ? say.nearestFirstWhatIsListed : say.firstInTimeFirst}
      </p>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={keys} strategy={verticalListSortingStrategy}>
          <ol aria-label={say.picturesInOrder}>
            {set.members.map((member, at) => (
              <Member
                key={keys[at]}
                id={keys[at]!}
                file={member.file}
                artId={onlyStill(member)!.art.id}
                onMove={(by) => move(at, at + by)}
                first={at === 0}
                last={at === keys.length - 1}
                // Drawings are all of one plane: none of them is left out by itself.
                out={set.kind === 'layers' ? left.has(keys[at]!) : null}
                onOut={() => changePainting(index, { left: toggled(left, keys[at]!) })}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </>
  );
}

interface MemberProps {
  id: string;
  file: string;
  artId: Parameters<typeof ArtThumbnail>[0]['artId'];
  onMove: (by: 1 | -1) => void;
  first: boolean;
  last: boolean;
  out: boolean | null;
  onOut: () => void;
}

function Member({ id, file, artId, onMove, first, last, out, onOut }: MemberProps) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      className={classes(
        'flex items-center gap-2 border-b border-rule-light bg-raised py-1 pr-2 pl-1',
        out && 'opacity-45',
        isDragging && 'relative z-10 outline outline-1 outline-select',
      )}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <span
        {...listeners}
        title={say.dragToChangeTheOrder}
        className="grid h-9 w-5 shrink-0 cursor-grab touch-none place-items-center text-ink-3"
      >
        <GripVertical size={14} aria-hidden="true" />
      </span>
      {out !== null && <Checkbox label={say.bringInName(file)} checked={!out} onChange={onOut} />}
      <ArtThumbnail artId={artId} className="h-9 w-16 shrink-0" />
      <span className="min-w-0 flex-1 truncate">{file}</span>
      <Button tone="bare" icon aria-label={say.fileUp(file)} disabled={first} onClick={() => onMove(-1)}>
        <ArrowUp size={13} aria-hidden="true" />
      </Button>
      <Button tone="bare" icon aria-label={say.fileDown(file)} disabled={last} onClick={() => onMove(1)}>
        <ArrowDown size={13} aria-hidden="true" />
      </Button>
    </li>
  );
}
