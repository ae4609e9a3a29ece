import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { GripVertical } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { Rename } from '../ui/fields/rename.tsx';
import { formatSeconds } from '../ui/format.ts';
import { Menu, type MenuItem } from '../ui/menu.tsx';
import type { TilePlace } from './tile-grid.tsx';
import type { WallActs } from './use-wall-acts.ts';

interface ShotTileProps {
  place: TilePlace;
  shot: ShotCard;
  /** It can be dragged among the others. */
  movable: boolean;
  /** Productions that it can be moved to. */
  others: readonly Production[];
  acts: WallActs;
  nextName: string;
}

/** A shot as its picture, name and measures. */
export function ShotTile({ place, shot, movable, others, acts, nextName }: ShotTileProps) {
  const [renaming, setRenaming] = useState(false);
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: shot.id });
  const seconds = formatSeconds(secondsOfFrames(shot.lengthFrames, shot.rate));
  const first = shot.planes === 0 ? 'art' : 'stage';
  const items: MenuItem[] = [
    { label: 'Rename', takesFocus: true, onSelect: () => setRenaming(true) },
    { label: 'Duplicate', onSelect: () => acts.duplicate(shot.id, nextName, true) },
    { label: 'Duplicate without its move', onSelect: () => acts.duplicate(shot.id, nextName, false) },
    ...others.map(
      (other, i): MenuItem => ({
        ...(i === 0 ? { heading: 'Move to' } : {}),
        label: other.name,
        onSelect: () => acts.move(shot.id, shot.name, other.id, other.name),
      }),
    ),
    {
      heading: 'Shot',
      label: 'Delete',
      danger: true,
      onSelect: () => acts.remove('shot', shot.id, shot.name),
    },
  ];
  return (
    <li
      ref={setNodeRef}
      data-shot={shot.id}
      aria-posinset={place.at}
      aria-setsize={place.of}
      className={isDragging ? 'absolute z-10 opacity-80' : 'absolute'}
      style={{
        left: place.left,
        top: place.top,
        width: place.width,
        transform: CSS.Translate.toString(transform),
        transition,
      }}
    >
      <Link
        to={`/shots/${shot.id}/${first}`}
        aria-label={`Open ${shot.name}`}
        className="block border border-rule bg-[#2e2e2e] hover:border-ink"
      >
        {shot.planes === 0 ? (
          <span className="grid aspect-video place-items-center text-[12px] text-white">No art yet</span>
        ) : (
          <img
            loading="lazy"
            src={`/api/shots/${shot.id}/picture?revision=${shot.revision}`}
            alt=""
            className="aspect-video w-full object-contain"
          />
        )}
      </Link>
      <div className="mt-1.5 flex items-start gap-1">
        {movable && (
          <span
            {...listeners}
            title="Drag to change the order"
            className="grid h-9 w-5 shrink-0 cursor-grab touch-none place-items-center text-ink-3"
          >
            <GripVertical size={14} aria-hidden="true" />
          </span>
        )}
        <div className="min-w-0 flex-1">
          {renaming ? (
            <Rename
              name={shot.name}
              label="Name of the shot"
              className="w-full"
              onRename={(name) => acts.rename('shot', shot.id, name)}
              onEnd={() => setRenaming(false)}
            />
          ) : (
            <p className="truncate font-semibold" title={shot.name}>
              {shot.name}
            </p>
          )}
          <p className="num text-ink-2">
            {shot.frame.widthPx} × {shot.frame.heightPx} · {shot.lengthFrames} f · {seconds} ·{' '}
            {rationalText(shot.rate)}
          </p>
        </div>
        <Menu label={`More for ${shot.name}`} items={items} />
      </div>
    </li>
  );
}
