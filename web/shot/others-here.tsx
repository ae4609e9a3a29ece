import { InitialsChip } from '../planes/initials-chip.tsx';
import { useOthersSeen } from '../session/presence.ts';
import { useNarrowWindow } from '../viewport/use-narrow-window.ts';
import { peopleWords as say } from '../words/people.ts';

/** More than these are counted: in a narrow window fewer, so that the name of the shot has room. */
const MOST_SHOWN = { wide: 4, narrow: 1 } as const;

/** Who else has this shot open, and on which plane they are. */
export function OthersHere() {
  const others = useOthersSeen();
  const most = MOST_SHOWN[useNarrowWindow() ? 'narrow' : 'wide'];
  if (others.length === 0) return null;
  return (
    <ul aria-label={say.others} className="flex items-center gap-1">
      {others.slice(0, most).map(({ window, name, plane }) => (
        <li key={window}>
          <InitialsChip name={name} title={plane === null ? say.isHere(name) : say.isOn(name, plane)} />
        </li>
      ))}
      {others.length > most && <li className="num text-ink-2">+{others.length - most}</li>}
    </ul>
  );
}
