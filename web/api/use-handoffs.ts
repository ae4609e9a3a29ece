import {
  type HandoffAsked,
  type HandoffList,
  handoffFramesSchema,
  handoffListSchema,
} from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { ask } from './client.ts';
import { listenTo } from './stream.ts';

const handoffsKey = (shotId: string) => ['handoffs', shotId] as const;
const nothing = z.null();

export interface LiveHandoffs {
  readonly list: HandoffList | undefined;
  readonly error: Error | null;
  /** False while the server does not tell what happens; the list may be old then. */
  readonly isLive: boolean;
}

/** A shot's hand-offs as the server tells of them. */
export function useHandoffs(shotId: string): LiveHandoffs {
  const client = useQueryClient();
  const [isLive, setLive] = useState(true);
  const query = useQuery({
    queryKey: handoffsKey(shotId),
    queryFn: () => ask(handoffListSchema, `/api/shots/${shotId}/handoffs`),
  });
  useEffect(() => {
    const hear = async (data: string) => {
      const list = handoffListSchema.parse(JSON.parse(data));
      // An answer that is on its way may be older than this, and nothing would be told again to correct it.
      await client.cancelQueries({ queryKey: handoffsKey(shotId) });
      client.setQueryData(handoffsKey(shotId), list);
    };
    return listenTo(() => `/api/shots/${shotId}/handoffs/events`, {
      on: { message: (data) => void hear(data) },
      onLive: setLive,
    });
  }, [client, shotId]);
  return { list: query.data, error: query.error, isLive };
}

export function useHandoffChange<A>(shotId: string, change: (argument: A) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: handoffsKey(shotId) }),
  });
}

export const askHandoff = (shotId: string) => (request: HandoffAsked) =>
  ask(createdSchema, `/api/shots/${shotId}/handoffs`, { method: 'POST', body: request });
export const cancelHandoff = (id: string) => ask(nothing, `/api/handoffs/${id}/cancel`, { method: 'POST' });
export const readFrameNames = (id: string) => ask(handoffFramesSchema, `/api/handoffs/${id}/frames`);
export const deleteHandoff = (id: string) => ask(nothing, `/api/handoffs/${id}`, { method: 'DELETE' });
export const renameHandoff = ({ id, name }: { id: string; name: string }) =>
  ask(nothing, `/api/handoffs/${id}/name`, { method: 'POST', body: { name } });
export const moveHandoff = ({ id, way }: { id: string; way: 'sooner' | 'later' }) =>
  ask(nothing, `/api/handoffs/${id}/move`, { method: 'POST', body: { way } });
