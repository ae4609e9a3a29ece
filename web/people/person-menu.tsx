import type { Person } from '@keen-ridge/core/contract/people';
import { useState } from 'react';
import { toast } from 'sonner';
import { signOut } from '../api/people.ts';
import { Button } from '../ui/button.tsx';
import { lazyPart } from '../ui/lazy-part.tsx';
import { Popover } from '../ui/popover.tsx';
import { peopleWords as say } from '../words/people.ts';
import { PasswordDialog } from './password-dialog.tsx';

const PeopleDialog = lazyPart(async () => (await import('./people-dialog.tsx')).PeopleDialog);

interface PersonMenuProps {
  person: Person;
  /** Whether something would be lost. */
  unsent?: () => boolean;
}

/** Who one is, and what one does about it. */
export function PersonMenu({ person, unsent = () => false }: PersonMenuProps) {
  const [open, setOpen] = useState<'password' | 'people' | null>(null);
  const leave = () => {
    if (unsent()) toast.error(say.unsentStays);
    else signOut().catch((error: Error) => toast.error(error.message));
  };
  return (
    <>
      <Popover label={person.name}>
        <div className="flex w-48 flex-col gap-1.5">
          <p className="text-ink-2">{say.you(person.name)}</p>
          <Button onClick={() => setOpen('password')}>{say.changePassword}</Button>
          {person.isAdministrator && <Button onClick={() => setOpen('people')}>{say.people}</Button>}
          <Button onClick={leave}>{say.signOut}</Button>
        </div>
      </Popover>
      {open === 'password' && <PasswordDialog onClose={() => setOpen(null)} />}
      {open === 'people' && <PeopleDialog me={person} onClose={() => setOpen(null)} />}
    </>
  );
}
