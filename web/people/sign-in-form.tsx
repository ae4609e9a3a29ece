import { useState } from 'react';
import { useSignIn } from '../api/people.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { peopleWords as say } from '../words/people.ts';

/**
 * Name and password; what is wrong is said beneath them. Whoever is known signs in over their own work: anybody else does
 * on the wall, where it waits for them.
 */
export function SignInForm({ name: known = '' }: { name?: string }) {
  const [name, setName] = useState(known);
  const [password, setPassword] = useState('');
  const { mutate, error, isPending } = useSignIn();
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        mutate({ name, password }, { onError: () => setPassword('') });
      }}
    >
      <TextField
        label={say.name}
        name="username"
        autoComplete="username"
        autoFocus={known === ''}
        required
        readOnly={known !== ''}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <TextField
        label={say.password}
        name="password"
        type="password"
        autoComplete="current-password"
        autoFocus={known !== ''}
        required
        value={password}
        fault={error?.message}
        onChange={(event) => setPassword(event.target.value)}
      />
      <div className="mt-2 flex justify-end gap-2">
        {known !== '' && (
          <Button onClick={() => window.location.assign('/')}>{say.somebodyElse(known)}</Button>
        )}
        <Button type="submit" tone="strong" disabled={isPending}>
          {isPending ? say.signingIn : say.signIn}
        </Button>
      </div>
    </form>
  );
}
