import { renamePlane, setPlanesHidden } from '@keen-ridge/core/edits/planes';
import type { Plane } from '@keen-ridge/core/scene';
import type { Root } from '@keen-ridge/core/stage';
import { Anchor, Eye, EyeOff, Link2, Lock, MoveHorizontal, Unlink } from 'lucide-react';
import { memo } from 'react';
import { renamePlaneInPlace, useRenaming } from '../../edits/plane-commands.ts';
import { OthersOnPlane } from '../../planes/others-on-plane.tsx';
import { PlaneThumbnail } from '../../planes/plane-thumbnail.tsx';
import { clickKeys, selectPlane } from '../../session/choices/selection.ts';
import { useSession } from '../../session/use-session.ts';
import { classes } from '../../ui/class-names.ts';
import { Rename } from '../../ui/fields/rename.tsx';
import { formatNumber } from '../../ui/format.ts';
import { stageWords as say } from '../../words/stage.ts';

interface StandLabelProps {
  plane: Plane;
  /** All planes as they stand in the list, near to far. */
  order: readonly Plane['id'][];
  depthSpx: number;
  root: Root;
  top: number;
  height: number;
  width: number;
  selected: boolean;
}

/** A plane's line in the gutter of the Stand: picture, name and depth. Drag it, step it, or rename it. */
export const StandLabel = memo(function StandLabel({
  plane,
  order,
  depthSpx,
  root,
  top,
  height,
  width,
  selected,
}: StandLabelProps) {
  const session = useSession();
  const renaming = useRenaming((state) => state.id === plane.id);
  const toggleHidden = () =>
    session.commit(
      plane.hidden ? 'show-planes' : 'hide-planes',
      plane.name,
      setPlanesHidden(session.state.scene, new Set([plane.id]), !plane.hidden),
    );
  return (
    <li
      data-plane={plane.id}
      className={classes('group absolute left-0 flex items-center pl-1', selected && 'bg-select-wash')}
      style={{ top, height, width }}
    >
      <button
        type="button"
        data-control
        aria-label={plane.hidden ? say.showName(plane.name) : say.hideName(plane.name)}
        className={classes(
          'grid h-6 max-h-full w-6 shrink-0 cursor-pointer place-items-center',
          plane.hidden ? 'opacity-100' : 'opacity-0 focus-visible:opacity-100 group-hover:opacity-100',
        )}
        onClick={toggleHidden}
      >
        {plane.hidden ? <EyeOff size={12} aria-hidden="true" /> : <Eye size={12} aria-hidden="true" />}
      </button>
      {renaming ? (
        <Rename
          name={plane.name}
          label={say.nameOfThePlane}
          className="ml-8 w-36"
          onRename={(name) =>
            session.commit('rename-plane', plane.name, renamePlane(session.state.scene, plane.id, name))
          }
          onEnd={() => renamePlaneInPlace(null)}
        />
      ) : (
        <button
          type="button"
          data-row
          aria-pressed={selected}
          aria-label={say.nameDepthDepthSpxPx(plane.name, formatNumber(depthSpx))}
          className={classes(
            'flex h-full min-w-0 flex-1 touch-none items-center gap-1.5 text-left',
            plane.hidden && 'opacity-50',
          )}
          style={{ cursor: 'ns-resize' }}
          onClick={(event) => event.detail === 0 && selectPlane(session, order, plane.id, clickKeys(event))}
          onDoubleClick={() => renamePlaneInPlace(plane.id)}
        >
          <PlaneThumbnail content={plane.content} className="h-[18px] w-7 shrink-0" />
          <span className={classes('narrow min-w-0 flex-1 truncate', selected && 'font-semibold')}>
            {plane.name}
          </span>
          <OthersOnPlane id={plane.id} name={plane.name} />
          <PlaneSigns plane={plane} />
          <span className="num shrink-0 text-ink-2">
            {root === 'camera' ? say.camera2 : formatNumber(depthSpx, 0, true)}
          </span>
        </button>
      )}
    </li>
  );
});

/** Small signs for what else a plane does: it runs, rides on another, is of a set, or is locked. */
function PlaneSigns({ plane }: { plane: Plane }) {
  return (
    <span className="flex shrink-0 gap-0.5 text-ink-2">
      {plane.run && <MoveHorizontal size={11} aria-label={say.runs} />}
      {plane.mount.on === 'plane' && <Anchor size={11} aria-label={say.ridesOnAPlane} />}
      {plane.ofSet &&
        (plane.ofSet.follows ? (
          <Link2 size={11} aria-label={say.followsASet} />
        ) : (
          <Unlink size={11} aria-label={say.ownCopyOfASet} />
        ))}
      {plane.locked && <Lock size={11} aria-label={say.locked} />}
    </span>
  );
}
