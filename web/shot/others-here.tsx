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
  const counted = others.slice(most);
  if (others.length === 0) return null;
  return (
    <ul aria-label={say.others} className="flex items-center gap-1">
      {others.slice(0, most).map(({ window, name, plane }) => (
        <li key={window}>
          <InitialsChip name={name} title={plane === null ? say.isHere(name) : say.isOn(name, plane)} />
        </li>
      ))}
      {counted.length > 0 && (
        <li className="num text-ink-2" title={counted.map(({ name }) => name).join(', ')}>
          +{counted.length}
        </li>
      )}
    </ul>
  );
}
