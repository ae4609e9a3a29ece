import { isRouteErrorResponse, Link, useRouteError } from 'react-router';

/** What stands in for a page that cannot be shown. */
export function FaultPage() {
  const error = useRouteError();
  const said = isRouteErrorResponse(error)
    ? `${error.status} ${error.statusText}`
    : error instanceof Error
      ? error.message
      : null;
  return (
    <main className="mx-auto mt-[18vh] max-w-md px-6">
      <h1 className="text-[18px] font-semibold">
        {said ? 'This page met a fault' : 'There is nothing at this address'}
      </h1>
      {said && <p className="mt-2 text-ink-2">{said}</p>}
      <p className="mt-4">
        Everything that said “Saved” is safe.{' '}
        <Link className="text-select underline" to="/" reloadDocument>
          Back to the wall
        </Link>
      </p>
    </main>
  );
}
