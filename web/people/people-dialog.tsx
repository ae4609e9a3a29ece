import { PASSWORD_LENGTH, type Person } from '@keen-ridge/core/contract/people';
import { useState } from 'react';
import { addPerson, changePerson, removePerson, usePeople, usePeopleChange } from '../api/people.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { Menu } from '../ui/menu.tsx';
import { peopleWords as say } from '../words/people.ts';

/** Everybody who may sign in, for an administrator. */
export function PeopleDialog({ me, onClose }: { me: Person; onClose: () => void }) {
  const people = usePeople();
  const change = usePeopleChange('server', changePerson);
  const remove = usePeopleChange('server', removePerson);
  const [giving, setGiving] = useState<Person | null>(null);
  const fault = people.error ?? change.error ?? remove.error;
  const itemsOf = (person: Person) => [
    { label: say.givePassword, takesFocus: true, onSelect: () => setGiving(person) },
    {
      label: person.isAdministrator ? say.noAdministrator : say.makeAdministrator,
      onSelect: () => change.mutate({ id: person.id, change: { isAdministrator: !person.isAdministrator } }),
    },
    { label: say.putAway, danger: true, onSelect: () => remove.mutate(person.id) },
  ];
  return (
    <Dialog open onClose={onClose} title={say.peopleTitle} description={say.peopleMeans} tall>
      <ul className="mb-4 border-t border-rule">
        {people.data?.people.map((person) => (
          <li key={person.id} className="flex items-center gap-2 border-b border-rule-light py-1">
            <span className="flex-1 truncate">{person.name}</span>
            {person.isAdministrator && (
              <span className="text-ink-2" title={say.administratorMeans}>
                {say.administrator}
              </span>
            )}
            {person.id !== me.id && <Menu label={say.more(person.name)} items={itemsOf(person)} />}
          </li>
        ))}
      </ul>
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault.message}
        </p>
      )}
      {giving ? (
        <GivePassword
          person={giving}
          onCancel={() => setGiving(null)}
          onGive={async (password) => {
            await change.mutateAsync({ id: giving.id, change: { password } });
            setGiving(null);
          }}
        />
      ) : (
        <NewPerson />
      )}
      <div className="mt-4 flex justify-end">
        <Button onClick={onClose}>{say.close}</Button>
      </div>
    </Dialog>
  );
}

function NewPerson() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const add = usePeopleChange('server', addPerson);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate(
          { name, password, isAdministrator: false },
          {
            // What is typed meanwhile is the next one's.
            onSuccess: () => {
              setName((typed) => (typed === name ? '' : typed));
              setPassword((typed) => (typed === password ? '' : typed));
            },
          },
        );
      }}
    >
      <TextField
        label={say.name}
        required
        maxLength={80}
        value={name}
        fault={add.error?.message}
        onChange={(event) => setName(event.target.value)}
      />
      <TextField
        label={say.password}
        type="password"
        autoComplete="new-password"
        title={say.newPasswordMeans(PASSWORD_LENGTH.min)}
        required
        minLength={PASSWORD_LENGTH.min}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Button type="submit" tone="strong" disabled={add.isPending}>
        {say.addPerson}
      </Button>
    </form>
  );
}

interface GivePasswordProps {
  person: Person;
  onCancel: () => void;
  onGive: (password: string) => Promise<void>;
}

function GivePassword({ person, onCancel, onGive }: GivePasswordProps) {
  const [password, setPassword] = useState('');
  const [fault, setFault] = useState<string>();
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onGive(password).catch((error: Error) => setFault(error.message));
      }}
    >
      <TextField
        label={say.passwordFor(person.name)}
        type="password"
        autoComplete="new-password"
        autoFocus
        required
        minLength={PASSWORD_LENGTH.min}
        value={password}
        fault={fault}
        onChange={(event) => setPassword(event.target.value)}
      />
      <Button type="submit" tone="strong">
        {say.give}
      </Button>
      <Button onClick={onCancel}>{say.cancel}</Button>
    </form>
  );
}
