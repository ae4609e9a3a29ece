import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { renamePlane } from '@keen-ridge/core/edits/planes';
import type { Plane } from '@keen-ridge/core/scene';
import { factsOf } from '@keen-ridge/core/staging/content';
import { Eye, EyeOff, GripVertical, Lock, LockOpen } from 'lucide-react';
import { toggleHidden, toggleLocked, toggleSolo } from '../../edits/art-edits.ts';
import { renamePlaneInPlace, useRenaming } from '../../edits/plane-commands.ts';
import { OthersOnPlane } from '../../planes/others-on-plane.tsx';
import { PlaneThumbnail } from '../../planes/plane-thumbnail.tsx';
import { type ClickKeys, clickKeys } from '../../session/choices/selection.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { classes } from '../../ui/class-names.ts';
import { Rename } from '../../ui/fields/rename.tsx';
import { formatNumber } from '../../ui/format.ts';
import { artWords as say } from '../../words/art.ts';
import { contentWords } from '../content-words.ts';
import type { RowPlace } from './stack-rows.ts';

interface PlaneRowProps {
  place: RowPlace;
  plane: Plane;
  inGroup: boolean;
  selected: boolean;
  onSelect: (keys: ClickKeys) => void;
}

/** One plane of the stack: drag it by its grip, choose it, rename it, hide, lock or show it alone. */
export function PlaneRow({ place, plane, inGroup, selected, onSelect }: PlaneRowProps) {
  const session = useSession();
  const alone = useSessionState((state) => state.solo.includes(plane.id));
  const renaming = useRenaming((state) => state.id === plane.id);
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: plane.id });
  const { widthPx, heightPx } = factsOf(plane.content);
  return (
    <li
      ref={setNodeRef}
      data-plane={plane.id}
      className={classes(
        'absolute inset-x-0 flex h-[44px] items-center gap-2 border-b border-rule-light pr-2',
        selected ? 'bg-select-wash' : 'bg-raised',
        isDragging && 'z-10 opacity-80 outline outline-1 outline-select',
      )}
      aria-posinset={place.at}
      aria-setsize={place.of}
      style={{
        top: place.top,
        transform: CSS.Translate.toString(transform),
        transition,
        paddingLeft: inGroup ? 20 : 2,
      }}
    >
      <span
        {...listeners}
        title={say.dragToChangeTheOrder}
        className="grid h-full w-4 shrink-0 cursor-grab touch-none place-items-center text-ink-3"
      >
        <GripVertical size={13} aria-hidden="true" />
      </span>
      <PlaneThumbnail content={plane.content} className="h-[34px] w-[60px] shrink-0" />
      {renaming ? (
        <Rename
          name={plane.name}
          label={say.nameOfThePlane}
          className="flex-1"
          onRename={(name) =>
            session.commit('rename-plane', plane.name, renamePlane(session.state.scene, plane.id, name))
          }
          onEnd={() => renamePlaneInPlace(null)}
        />
      ) : (
        <button
          type="button"
          id={`row-${plane.id}`}
          data-row=""
          aria-pressed={selected}
          title={say.doubleClickToRename}
          className={classes('min-w-0 flex-1 cursor-default text-left', plane.hidden && 'opacity-50')}
          onClick={(event) => onSelect(clickKeys(event))}
          onDoubleClick={() => renamePlaneInPlace(plane.id)}
        >
          <span className={classes('block truncate leading-tight', selected && 'font-semibold')}>
            {plane.name}
          </span>
          <span className="num block truncate text-ink-2" aria-hidden="true">
            {contentWords(plane.content)} · {formatNumber(widthPx)} × {formatNumber(heightPx)} px
          </span>
        </button>
      )}
      <OthersOnPlane id={plane.id} name={plane.name} />
      <Button
        tone="bare"
        icon
        aria-pressed={alone}
        aria-label={say.showNameAlone(plane.name)}
        title={say.soloShowItAlone}
        className={alone ? 'bg-ink! text-raised!' : 'text-ink-3'}
        onClick={() => toggleSolo(session, [plane.id])}
      >
        S
      </Button>
      <Button
        tone="bare"
        icon
        aria-label={plane.hidden ? say.showName(plane.name) : say.hideName(plane.name)}
        onClick={() => toggleHidden(session, [plane])}
      >
        {plane.hidden ? <EyeOff size={14} aria-hidden="true" /> : <Eye size={14} aria-hidden="true" />}
      </Button>
      <Button
        tone="bare"
        icon
        aria-label={plane.locked ? say.unlockName(plane.name) : say.lockName(plane.name)}
        onClick={() => toggleLocked(session, [plane])}
      >
        {plane.locked ? (
          <Lock size={13} aria-hidden="true" />
        ) : (
          <LockOpen size={13} aria-hidden="true" className="text-ink-3" />
        )}
      </Button>
    </li>
  );
}
