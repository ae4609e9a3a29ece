import { InitialsChip } from '../planes/initials-chip.tsx';
import { useOthersSeen } from '../session/presence.ts';
import { peopleWords as say } from '../words/people.ts';

/** More than these are counted. */
const MOST_SHOWN = 4;

/** Who else has this shot open, and on which plane they are. */
export function OthersHere() {
  const others = useOthersSeen();
  if (others.length === 0) return null;
  return (
    <ul aria-label={say.others} className="flex items-center gap-1">
      {others.slice(0, MOST_SHOWN).map(({ window, name, plane }) => (
        <li key={window}>
          <InitialsChip name={name} title={plane === null ? say.isHere(name) : say.isOn(name, plane)} />
        </li>
      ))}
      {others.length > MOST_SHOWN && <li className="num text-ink-2">+{others.length - MOST_SHOWN}</li>}
    </ul>
  );
}
