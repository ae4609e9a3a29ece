import { type ReactNode, useEffect, useState } from 'react';
import { useMe } from '../api/people.ts';
import { actAs } from '../session/author.ts';
import { Dialog } from '../ui/dialog.tsx';
import { Logo } from '../ui/logo.tsx';
import { peopleWords as say } from '../words/people.ts';
import { SignInForm } from './sign-in-form.tsx';

/**
 * The program for whoever is signed in, or for everybody on a server that knows nobody. A session that ends while one
 * works is begun again over the page: what is unsaved stays in it.
 */
export function SignedIn({ children }: { children: ReactNode }) {
  const me = useMe();
  const person = me.data?.person ?? null;
  const [last, setLast] = useState<string | null>(null);
  const [drawn, setDrawn] = useState(false);
  useEffect(() => {
    if (!person) return;
    actAs({ id: person.id, name: person.name });
    setLast(person.name);
  }, [person]);
  const asks = me.data?.signIn === true && !person;
  if (asks && last === null) return <SignInPage />;
  // The first page is drawn once it is known whom it is for, so that nothing is read for anybody else; where nobody
  // answers, the pages say so themselves. What has been drawn stays, however often it is asked again.
  const known = person ? last !== null : me.data !== undefined;
  if (!drawn && (known || me.failureCount > 0 || me.isError)) setDrawn(true);
  if (!drawn) return null;
  return (
    <>
      {children}
      {asks && (
        <Dialog
          open
          onClose={() => {}}
          title={say.signInAgain}
          description={say.signInAgainMeans}
          width={340}
        >
          <SignInForm name={last ?? ''} />
        </Dialog>
      )}
    </>
  );
}

function SignInPage() {
  return (
    <main className="grid h-full place-items-center bg-bar">
      <div className="w-80 rounded-[3px] border border-rule bg-raised p-6">
        <h1 className="mb-1 flex items-center gap-2.5 text-[16px] font-semibold">
          <Logo />
          {say.keenRidge}
        </h1>
        <p className="mb-4 text-ink-2">{say.signInMeans}</p>
        <SignInForm />
      </div>
    </main>
  );
}
