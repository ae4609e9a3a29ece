import { planeOf } from '@keen-ridge/core/scene/records';
import { Link, useParams } from 'react-router';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { artWords as say } from '../../words/art.ts';
import { ShapesTable } from './shapes-table.tsx';

/** Draws the closed shapes of one plane. */
export function ShapesPage() {
  const { planeId } = useParams();
  const session = useSession();
  const plane = useSessionState((state) => planeOf(state.preview ?? state.scene, planeId));
  if (plane?.content.kind !== 'shapes')
    return (
      <main className="grid flex-1 place-items-center">
        <p>
          {say.thisPlaneHasNoShapes}{' '}
          <Link to="../.." relative="path" className="underline">
            {say.backToArt}
          </Link>
        </p>
      </main>
    );
  return <ShapesTable session={session} plane={plane} content={plane.content} />;
}
