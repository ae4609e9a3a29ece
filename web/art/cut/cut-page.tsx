import type { Raster } from '@keen-ridge/core/image';
import { planeOf } from '@keen-ridge/core/scene/records';
import { reasonOf } from '@keen-ridge/core/units';
import { useEffect, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { fetchPixels } from '../../picture/live/art-loader.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { artWords as say } from '../../words/art.ts';
import { CutTable } from './cut-table.tsx';
import { openedArt } from './opened-art.ts';

/** Cuts a painting into planes; `?change` opens a cut that was made before. */
export function CutPage() {
  const { planeId } = useParams();
  const [search] = useSearchParams();
  const session = useSession();
  const plane = useSessionState((state) => planeOf(state.scene, planeId));
  // The page works on the art as it was opened, whatever is undone meanwhile.
  const [opened] = useState(() => plane && openedArt(plane, search.has('change')));
  const [image, setImage] = useState<Raster<'straight'> | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (!opened) return;
    let here = true;
    fetchPixels(opened.art).then(
      (pixels) => here && setImage(pixels),
      (error: unknown) => here && setFault(reasonOf(error)),
    );
    return () => {
      here = false;
    };
  }, [opened]);
  if (!opened || !plane) return <Notice text="This plane has no painting to cut." />;
  if (fault) return <Notice text={fault} />;
  if (!image) return <Notice text="Opening the painting …" />;
  return <CutTable key={plane.id} session={session} plane={plane} opened={opened} image={image} />;
}

function Notice({ text }: { text: string }) {
  return (
    <main className="grid flex-1 place-items-center">
      <p role="status">
        {text}{' '}
        <Link to="../.." relative="path" className="underline">
          {say.backToArt}
        </Link>
      </p>
    </main>
  );
}
