import { ROLES, type Role } from '@keen-ridge/core/contract/people';
import { useState } from 'react';
import { letIn, setRole, takeOut, useMembers, usePeopleChange } from '../api/people.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { Select } from '../ui/fields/select.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { peopleWords as say } from '../words/people.ts';

interface MembersDialogProps {
  production: { readonly id: string; readonly name: string };
  onClose: () => void;
}

/** Who may do what in a production, for whoever runs it. */
export function MembersDialog({ production, onClose }: MembersDialogProps) {
  const productionId = production.id;
  const members = useMembers(productionId);
  const [name, setName] = useState('');
  const [role, setNewRole] = useState<Role>('work');
  const add = usePeopleChange({ productionId }, letIn);
  const change = usePeopleChange({ productionId }, setRole);
  const remove = usePeopleChange({ productionId }, takeOut);
  const fault = members.error ?? change.error ?? remove.error;
  return (
    <Dialog
      open
      onClose={onClose}
      title={say.membersTitle(production.name)}
      description={say.membersMeans}
      tall
    >
      <ul className="mb-4 border-t border-rule">
        {members.data?.members.length === 0 && <li className="py-2 text-ink-2">{say.nobodyYet}</li>}
        {members.data?.members.map((member) => (
          <li key={member.id} className="flex items-center gap-2 border-b border-rule-light py-1">
            <span className="flex-1 truncate">{member.name}</span>
            <Select
              label={say.roleOf(member.name)}
              hideLabel
              options={ROLES}
              words={say.roles}
              value={member.role}
              onChange={(next) => change.mutate({ productionId, id: member.id, role: next })}
            />
            <Button
              aria-label={say.takeOutName(member.name)}
              onClick={() => remove.mutate({ productionId, id: member.id })}
            >
              {say.takeOut}
            </Button>
          </li>
        ))}
      </ul>
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault.message}
        </p>
      )}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          // What is typed meanwhile is the next one's.
          const onSuccess = () => setName((typed) => (typed === name ? '' : typed));
          add.mutate({ productionId, name, role }, { onSuccess });
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
        <Select label={say.role} options={ROLES} words={say.roles} value={role} onChange={setNewRole} />
        <Button type="submit" tone="strong" disabled={add.isPending}>
          {say.letIn}
        </Button>
      </form>
      <ul className="mt-4 text-ink-2">
        {ROLES.map((one) => (
          <li key={one}>{say.rolesMean[one]}</li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button onClick={onClose}>{say.close}</Button>
      </div>
    </Dialog>
  );
}
