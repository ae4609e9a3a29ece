import { isRouteErrorResponse, Link, useRouteError } from 'react-router';
import { shotWords as say } from '../words/shot.ts';

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
      <h1 className="text-[18px] font-semibold">{said ? say.thisPageMetAFault : say.thereIsNothingAtThis}</h1>
      {said && <p className="mt-2 text-ink-2">{said}</p>}
      <p className="mt-4">
        {say.everythingThatSaidSavedIs}{' '}
        <Link className="text-select underline" to="/" reloadDocument>
          {say.backToTheWall}
        </Link>
      </p>
    </main>
  );
}
