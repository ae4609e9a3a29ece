import { planeOf } from '@keen-ridge/core/scene/records';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { toast } from 'sonner';
import { ArtDrop } from '../bring-in/art-drop.tsx';
import type { Subject } from '../commands/command.ts';
import { CommandMenu } from '../commands/context-menu.tsx';
import { OffersBar } from '../edits/offers-bar.tsx';
import { sharedPool } from '../picture/live/browser-pool.ts';
import { ownIds, useAuthor } from '../session/author.ts';
import { usePlayback } from '../session/choices/playback.ts';
import { openShot } from '../session/open-shot.ts';
import { useSaysPresent } from '../session/presence.ts';
import { Session } from '../session/session.ts';
import { useSound } from '../session/sound/use-sound.ts';
import { useSurveyor } from '../session/survey/use-survey.ts';
import { SessionContext, useSession } from '../session/use-session.ts';
import { TourCard } from '../tour/tour-card.tsx';
import { shotWords as say } from '../words/shot.ts';
import { LostNotice } from './lost-notice.tsx';
import { ShotHeader } from './shot-header.tsx';
import { useAuthorOfEdits, useFaultNotices, useUnsentWarning } from './use-open-shot.ts';
import { useShotCommands } from './use-shot-commands.ts';

async function openWithNews(id: string) {
  const opened = await openShot(id, useAuthor.getState(), ownIds());
  if (opened.unreadable > 0) toast.warning(say.unsentOfAnOlderVersion, { duration: 20_000 });
  return opened;
}

/** One open shot: everything of it lives until the page is left or reloaded. */
export function ShotPage() {
  const { shotId = '' } = useParams();
  const [session, setSession] = useState<Session | null>(null);
  const shot = useQuery({
    queryKey: ['shot', shotId],
    queryFn: () => openWithNews(shotId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  });
  // While the shot is read: most steps show a picture of it first of all.
  useEffect(() => sharedPool.openAhead(), []);
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
        {shot.failureCount > 0 ? say.theServerDoesNotAnswer : say.openingTheShot}
      </p>
    );
  }
  return (
    <SessionContext value={session}>
      <OpenShot />
    </SessionContext>
  );
}

function OpenShot() {
  const session = useSession();
  usePlayback();
  useSound();
  useAuthorOfEdits();
  useFaultNotices();
  useUnsentWarning();
  useShotCommands();
  useSurveyor();
  useSaysPresent();
  // A menu is about the plane or key that it is opened on, so that is chosen as a click would.
  const chooseSubject = ({ kind, id }: Subject) => {
    if (kind !== 'plane') return;
    const plane = planeOf(session.state.scene, id);
    if (plane && !session.state.selection.includes(plane.id)) session.select([plane.id]);
  };
  return (
    <ArtDrop>
      <CommandMenu onOpen={chooseSubject}>
        <div className="flex h-full flex-col overflow-hidden">
          <ShotHeader />
          <LostNotice />
          <OffersBar shotId={session.shot.id} />
          <Outlet />
          <TourCard />
        </div>
      </CommandMenu>
    </ArtDrop>
  );
}
