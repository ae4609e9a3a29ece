import { shotSchema } from '@keen-ridge/core/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { toast } from 'sonner';
import { ask } from '../api/client.ts';
import { ArtDrop } from '../art/art-drop.tsx';
import { sendLeftOver } from '../state/op-queue.ts';
import { usePlayback } from '../state/playback.ts';
import { Session } from '../state/session.ts';
import { SessionContext } from '../state/use-session.ts';
import { ShotHeader } from './shot-header.tsx';
import { StaleNotice } from './stale-notice.tsx';
import { useRevisionWatch } from './use-revision-watch.ts';
import { useShotKeys } from './use-shot-keys.ts';

async function openShot(id: string) {
  const { count, why } = await sendLeftOver(id);
  const edits = `${count} unsent ${count === 1 ? 'edit' : 'edits'}`;
  if (count > 0 && why !== null) toast.warning(`${edits} could not be kept: ${why}`, { duration: 20_000 });
  else if (count > 0) toast.warning(`${edits} no longer fitted this shot and could not be kept.`);
  return ask(shotSchema, `/api/shots/${id}`);
}

/** One open shot: everything of it lives until the page is left or reloaded. */
export function ShotPage() {
  const { shotId = '' } = useParams();
  const [session, setSession] = useState<Session | null>(null);
  const [opened, setOpened] = useState(0);
  const shot = useQuery({
    queryKey: ['shot', shotId, opened],
    queryFn: () => openShot(shotId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  });
  useEffect(() => {
    if (!shot.data) return;
    const made = new Session(shot.data);
    setSession(made);
    return () => made.close();
  }, [shot.data]);

  if (shot.isError) throw shot.error;
  if (!session || session.shot.id !== shotId) {
    return (
      <p role="status" className="p-6 text-ink-2">
        {shot.failureCount > 0 ? 'The server does not answer. Trying again …' : 'Opening the shot …'}
      </p>
    );
  }
  return (
    <SessionContext value={session}>
      <OpenShot onReload={() => setOpened((n) => n + 1)} />
    </SessionContext>
  );
}

function OpenShot({ onReload }: { onReload: () => void }) {
  const [helpOpen, setHelpOpen] = useState(false);
  usePlayback();
  useRevisionWatch();
  useShotKeys(() => setHelpOpen(true));
  return (
    <ArtDrop>
      <div className="flex h-full flex-col overflow-hidden">
        <ShotHeader helpOpen={helpOpen} onHelp={setHelpOpen} />
        <StaleNotice onReload={onReload} />
        <Outlet />
      </div>
    </ArtDrop>
  );
}
