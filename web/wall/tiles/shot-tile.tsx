import type { Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { Check, GripVertical } from 'lucide-react';
import { type DragEvent, useState } from 'react';
import { Link } from 'react-router';
import { useSurveyCounts } from '../../api/survey.ts';
import { clickKeys } from '../../session/choices/selection.ts';
import { classes } from '../../ui/class-names.ts';
import { Checkbox } from '../../ui/fields/checkbox.tsx';
import { Rename } from '../../ui/fields/rename.tsx';
import { formatSeconds } from '../../ui/format.ts';
import { Menu, type MenuItem } from '../../ui/menu.tsx';
import { wallWords as say } from '../../words/wall.ts';
import { SHOT_DRAG, setGiving } from '../giving.ts';
import type { WallActs } from '../use-wall-acts.ts';
import { chooseShot, useWallChoice } from '../wall-choice.ts';
import { Poster } from './poster.tsx';
import type { TileDrag } from './tile-drag.ts';
import type { TilePlace } from './tile-grid.tsx';

interface ShotTileProps {
  place: TilePlace;
  shot: ShotCard;
  /** Null where it cannot be dragged among the others. */
  drag: TileDrag | null;
  /** Productions that it can be moved to. */
  others: readonly Production[];
  acts: WallActs;
  /** Ids of the shots beside it, in their order. */
  order: readonly string[];
  /** The set-up of another shot was dropped on it. */
  onGiven: (from: string) => void;
  nextName: string;
}

/** A shot as its picture, name and measures. */
export function ShotTile({ place, shot, drag, others, acts, order, onGiven, nextName }: ShotTileProps) {
  const [renaming, setRenaming] = useState(false);
  const seconds = formatSeconds(secondsOfFrames(shot.lengthFrames, shot.rate));
  const first = shot.planes === 0 ? 'art' : 'stage';
  const chosen = useWallChoice((state) => state.chosen.includes(shot.id));
  const [over, setOver] = useState(false);
  const isShot = (event: DragEvent) => event.dataTransfer.types.includes(SHOT_DRAG);
  const items: MenuItem[] = [
    { label: say.rename, takesFocus: true, onSelect: () => setRenaming(true) },
    { label: say.duplicate, onSelect: () => acts.duplicate(shot.id, nextName, true) },
    { label: say.duplicateWithoutItsMove, onSelect: () => acts.duplicate(shot.id, nextName, false) },
    {
      label: say.giveItsSetUpTo,
      takesFocus: true,
      onSelect: () => setGiving({ from: shot, to: null }),
    },
    ...others.map(
      (other, i): MenuItem => ({
        ...(i === 0 ? { heading: say.moveTo } : {}),
        label: other.name,
        onSelect: () => acts.move(shot.id, shot.name, other.id, other.name),
      }),
    ),
    {
      heading: say.shot,
      label: say.deleteIt,
      danger: true,
      onSelect: () => acts.remove('shot', shot.id, shot.name),
    },
  ];
  return (
    <li
      ref={drag?.tile}
      data-shot={shot.id}
      aria-posinset={place.at}
      aria-setsize={place.of}
      className={classes('group absolute', drag?.isDragging && 'z-10 opacity-80')}
      style={{
        left: place.left,
        top: place.top,
        width: place.width,
        ...drag?.style,
      }}
    >
      <Link
        to={`/shots/${shot.id}/${first}`}
        aria-label={say.openName(shot.name)}
        title={say.dragItOntoAnotherShot}
        className={classes(
          'block border bg-[#2e2e2e] hover:border-ink',
          over || chosen ? 'border-select outline outline-2 outline-select' : 'border-rule',
        )}
        onClick={(event) => {
          const keys = clickKeys(event);
          if (!keys.add && !keys.shift) return;
          event.preventDefault();
          chooseShot(order, shot.id, keys);
        }}
        onDragStart={(event) => event.dataTransfer.setData(SHOT_DRAG, shot.id)}
        onDragOver={(event) => {
          if (!isShot(event)) return;
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          setOver(false);
          const from = event.dataTransfer.getData(SHOT_DRAG);
          if (from === '' || from === shot.id) return;
          event.preventDefault();
          onGiven(from);
        }}
      >
        {shot.planes === 0 ? (
          <span className="grid aspect-video place-items-center text-[12px] text-white">{say.noArtYet}</span>
        ) : (
          <Poster key={shot.revision} shot={shot} />
        )}
      </Link>
      <span
        className={classes(
          'absolute top-1 left-1 rounded-[3px] bg-raised',
          chosen ? '' : 'opacity-0 focus-within:opacity-100 group-hover:opacity-100',
        )}
      >
        <Checkbox
          label={say.chooseName(shot.name)}
          checked={chosen}
          onChange={() => chooseShot(order, shot.id, { add: true, shift: false })}
        />
      </span>
      <div className="mt-1.5 flex items-start gap-1">
        {drag && (
          <span
            {...drag.grip}
            title={say.dragToChangeTheOrder}
            className="grid h-9 w-5 shrink-0 cursor-grab touch-none place-items-center text-ink-3"
          >
            <GripVertical size={14} aria-hidden="true" />
          </span>
        )}
        <div className="min-w-0 flex-1">
          {renaming ? (
            <Rename
              name={shot.name}
              label={say.nameOfTheShot}
              className="w-full"
              onRename={(name) => acts.rename('shot', shot.id, name)}
              onEnd={() => setRenaming(false)}
            />
          ) : (
            <p className="truncate font-semibold" title={shot.name}>
              {shot.name}
            </p>
          )}
          <p className="num flex justify-between gap-2 text-ink-2">
            <span className="truncate">
              {shot.frame.widthPx} × {shot.frame.heightPx} · {shot.lengthFrames} f · {seconds} ·{' '}
              {rationalText(shot.rate)}
            </span>
            {shot.planes > 0 && <FindingCount shot={shot} />}
          </p>
        </div>
        <Menu label={say.moreForName(shot.name)} items={items} />
      </div>
    </li>
  );
}

/** How much would go wrong in a shot, and the way there. */
function FindingCount({ shot }: { shot: ShotCard }) {
  const { data } = useSurveyCounts(shot.id, shot.revision);
  if (!data) return null;
  if (data.open === 0)
    return (
      <Check
        size={14}
        role="img"
        aria-label={say.nothingWouldGoWrong}
        className="mt-0.5 shrink-0 text-ink-3"
      />
    );
  return (
    <Link to={`/shots/${shot.id}/survey`} className="shrink-0 font-semibold text-fault hover:underline">
      {data.open === 1 ? say.oneFinding : say.openFindings(data.open)}
    </Link>
  );
}
