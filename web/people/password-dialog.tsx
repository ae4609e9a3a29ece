import { PASSWORD_LENGTH } from '@keen-ridge/core/contract/people';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { changePassword } from '../api/people.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { peopleWords as say } from '../words/people.ts';

export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const change = useMutation({
    mutationFn: changePassword,
    onSuccess: () => {
      toast.success(say.passwordChanged);
      onClose();
    },
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={say.changePasswordTitle}
      description={say.newPasswordMeans(PASSWORD_LENGTH.min)}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate({ old, password });
        }}
      >
        <TextField
          label={say.oldPassword}
          type="password"
          autoComplete="current-password"
          required
          value={old}
          onChange={(event) => setOld(event.target.value)}
        />
        <TextField
          label={say.newPassword}
          type="password"
          autoComplete="new-password"
          required
          minLength={PASSWORD_LENGTH.min}
          value={password}
          fault={change.error?.message}
          onChange={(event) => setPassword(event.target.value)}
        />
        <div className="mt-2 flex justify-end gap-2">
          <Button onClick={onClose}>{say.cancel}</Button>
          <Button type="submit" tone="strong" disabled={change.isPending}>
            {say.changePasswordTitle}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
