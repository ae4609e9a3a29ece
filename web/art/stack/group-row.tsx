import type { Plane } from '@keen-ridge/core/scene';
import { ChevronDown, ChevronRight, Eye, EyeOff, Lock, LockOpen } from 'lucide-react';
import { useState } from 'react';
import { toggleHidden, toggleLocked } from '../../edits/art-edits.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Rename } from '../../ui/fields/rename.tsx';
import { artWords as say } from '../../words/art.ts';
import type { RowPlace } from './stack-rows.ts';

interface GroupRowProps {
  place: RowPlace;
  name: string;
  planes: readonly Plane[];
  open: boolean;
  onOpen: () => void;
  onRename: (name: string) => void;
}

/** The heading of a group: choosing it chooses all of it, so that it moves as one. */
export function GroupRow({ place, name, planes, open, onOpen, onRename }: GroupRowProps) {
  const session = useSession();
  const [renaming, setRenaming] = useState(false);
  const hidden = planes.every((plane) => plane.hidden);
  const locked = planes.every((plane) => plane.locked);
  return (
    <li
      aria-posinset={place.at}
      aria-setsize={place.of}
      className="absolute inset-x-0 flex h-[30px] items-center gap-1 border-b border-rule-light bg-panel pl-1 pr-2"
      style={{ top: place.top }}
    >
      <Button
        tone="bare"
        icon
        aria-label={open ? say.closeName(name) : say.openName(name)}
        aria-expanded={open}
        onClick={onOpen}
      >
        {open ? <ChevronDown size={14} aria-hidden="true" /> : <ChevronRight size={14} aria-hidden="true" />}
      </Button>
      {renaming ? (
        <Rename
          name={name}
          label={say.nameOfTheGroup}
          className="flex-1"
          onRename={onRename}
          onEnd={() => setRenaming(false)}
        />
      ) : (
        <button
          type="button"
          title={say.clickToChooseTheWhole}
          className="min-w-0 flex-1 cursor-pointer truncate text-left font-semibold"
          onClick={() => session.select(planes.map((plane) => plane.id))}
          onDoubleClick={() => setRenaming(true)}
          onKeyDown={(event) => event.key === 'F2' && setRenaming(true)}
        >
          {name}
        </button>
      )}
      <span className="num pr-1 text-ink-2">{planes.length}</span>
      <Button
        tone="bare"
        icon
        aria-label={hidden ? say.showGroupName(name) : say.hideGroupName(name)}
        onClick={() => toggleHidden(session, planes)}
      >
        {hidden ? <EyeOff size={14} aria-hidden="true" /> : <Eye size={14} aria-hidden="true" />}
      </Button>
      <Button
        tone="bare"
        icon
        aria-label={locked ? say.unlockGroupName(name) : say.lockGroupName(name)}
        onClick={() => toggleLocked(session, planes)}
      >
        {locked ? (
          <Lock size={13} aria-hidden="true" />
        ) : (
          <LockOpen size={13} aria-hidden="true" className="text-ink-3" />
        )}
      </Button>
    </li>
  );
}
