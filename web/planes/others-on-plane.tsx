import { useOthers } from '../session/presence.ts';
import { peopleWords as say } from '../words/people.ts';
import { InitialsChip } from './initials-chip.tsx';

/** Who else has chosen a plane just now. */
export function OthersOnPlane({ id, name }: { id: string; name: string }) {
  const others = useOthers().filter(({ plane }) => plane === id);
  return others.map(({ window, author }) => (
    <InitialsChip key={window} name={author.name} title={say.isOn(author.name, name)} />
  ));
}
