import { renamePlane, setPlanesHidden } from '@keen-ridge/core/document';
import { Eye, EyeOff } from 'lucide-react';
import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import { PlaneThumbnail } from '../art/plane-thumbnail.tsx';
import { useSession } from '../state/use-session.ts';
import { classes } from '../ui/class-names.ts';
import { formatNumber } from '../ui/format.ts';
import { Rename } from '../ui/rename.tsx';
import type { StandRow } from './stand-rows.ts';

interface StandLabelProps {
  row: StandRow;
  top: number;
  height: number;
  width: number;
  selected: boolean;
  onKeyDown: (event: KeyboardEvent<Element>) => void;
  onSelect: (add: boolean) => void;
  handlers: Record<string, (event: PointerEvent<Element>) => void>;
}

/** A plane's line in the gutter of the Stand: picture, name and depth. Drag it, step it, or rename it. */
export function StandLabel({
  row,
  top,
  height,
  width,
  selected,
  onKeyDown,
  onSelect,
  handlers,
}: StandLabelProps) {
  const session = useSession();
  const [renaming, setRenaming] = useState(false);
  const { plane } = row;
  const toggleHidden = () =>
    session.commit(
      plane.hidden ? 'show-planes' : 'hide-planes',
      plane.name,
      setPlanesHidden(session.state.scene, new Set([plane.id]), !plane.hidden),
    );
  return (
    <li
      className={classes('group absolute left-0 flex items-center pl-1', selected && 'bg-select-wash')}
      style={{ top, height, width }}
    >
      <button
        type="button"
        aria-label={plane.hidden ? `Show ${plane.name}` : `Hide ${plane.name}`}
        className={classes(
          'grid h-6 w-6 shrink-0 cursor-pointer place-items-center',
          plane.hidden ? 'opacity-100' : 'opacity-0 focus-visible:opacity-100 group-hover:opacity-100',
        )}
        onClick={toggleHidden}
      >
        {plane.hidden ? <EyeOff size={12} aria-hidden="true" /> : <Eye size={12} aria-hidden="true" />}
      </button>
      {renaming ? (
        <Rename
          name={plane.name}
          label="Name of the plane"
          className="ml-8 w-36"
          onRename={(name) =>
            session.commit('rename-plane', plane.name, renamePlane(session.state.scene, plane.id, name))
          }
          onEnd={() => setRenaming(false)}
        />
      ) : (
        <button
          type="button"
          aria-pressed={selected}
          aria-label={`${plane.name}, depth ${formatNumber(plane.depthSpx)} px`}
          className={classes(
            'flex h-full min-w-0 flex-1 touch-none items-center gap-1.5 text-left',
            plane.hidden && 'opacity-50',
          )}
          style={{ cursor: 'ns-resize' }}
          {...handlers}
          onClick={(event) => event.detail === 0 && onSelect(event.shiftKey)}
          onDoubleClick={() => setRenaming(true)}
          onKeyDown={(event) => {
            onKeyDown(event);
            if (event.key === 'F2') setRenaming(true);
            if (event.key === 'h') toggleHidden();
          }}
        >
          <PlaneThumbnail content={plane.content} className="h-[18px] w-7 shrink-0" />
          <span className={classes('narrow min-w-0 flex-1 truncate', selected && 'font-semibold')}>
            {plane.name}
          </span>
          <span className="num shrink-0 text-ink-2">
            {plane.mount === 'camera' ? 'camera' : formatNumber(plane.depthSpx, 0, true)}
          </span>
        </button>
      )}
    </li>
  );
}
