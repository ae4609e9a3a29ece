import {
  historySchema,
  type OpRequest,
  revisionsSchema,
  type Shot,
  shotSchema,
} from '@keen-ridge/core/contract';
import { type Present, presentListSchema, type SayPresent } from '@keen-ridge/core/contract/people';
import { type Revision, revisionSchema } from '@keen-ridge/core/history';
import { useQuery } from '@tanstack/react-query';
import { ask } from './client.ts';
import { listenTo } from './stream.ts';

export const readShot = (id: string, author: string): Promise<Shot> =>
  ask(shotSchema, `/api/shots/${id}?author=${encodeURIComponent(author)}`);

/** The steps after the revision that is known, oldest first. */
export const readRevisions = async (id: string, after: number): Promise<Revision[]> =>
  (await ask(revisionsSchema, `/api/shots/${id}/revisions?after=${after}`)).revisions;

/** How far back the history is listed. */
export const HISTORY_STEPS = 200;

/** What was done to a shot, as it is kept. */
export const useHistory = (id: string) =>
  useQuery({
    queryKey: ['history', id],
    queryFn: () => ask(historySchema, `/api/shots/${id}/history?newest=${HISTORY_STEPS}`),
    gcTime: 0,
  });

/** Sends an op and answers the steps after the revision that it was made on, its own among them. */
export const sendOp = async (id: string, request: OpRequest): Promise<Revision[]> =>
  (await ask(revisionsSchema, `/api/shots/${id}/ops`, { method: 'POST', body: request })).revisions;

export interface ShotListener {
  onRevision(revision: Revision): void;
  /** In which windows the shot is open now. */
  onPresent(present: readonly Present[]): void;
  /** The steps from there on are no longer known one by one. */
  onForgotten(): void;
}

/** Hears of every step of a shot after a revision; goes on by itself after the server was away. */
export function listenToShot(id: string, after: number, listener: ShotListener): () => void {
  const close = listenTo((heard) => `/api/shots/${id}/events?after=${heard ?? after}`, {
    on: {
      revision: (data) => listener.onRevision(revisionSchema.parse(JSON.parse(data))),
      present: (data) => listener.onPresent(presentListSchema.parse(JSON.parse(data))),
      forgotten: () => {
        close();
        listener.onForgotten();
      },
    },
  });
  return close;
}

/** Says that a window is there, or is left; where it is not heard, the next time will do. */
export async function sayPresent(id: string, said: SayPresent): Promise<void> {
  await fetch(`/api/shots/${id}/present`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(said),
    // As a page is left, too.
    keepalive: true,
  });
}
