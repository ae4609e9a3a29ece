import {
  createdSchema,
  easeShelfSchema,
  lookShelfSchema,
  type Take,
  takeListSchema,
  takeSceneSchema,
} from '@keen-ridge/core/contract/wall';
import type { TakenLook } from '@keen-ridge/core/edits/look';
import type { Scene } from '@keen-ridge/core/scene';
import type { Ease } from '@keen-ridge/core/timing';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { z } from 'zod';
import { ask, ServerUnreachable } from './client.ts';

const nothing = z.null();
const TAKE_TRIES = 60;
const said = (error: Error) => toast.error(error.message);

const takesKey = (shotId: string) => ['takes', shotId] as const;

/** The takes of a shot, oldest first. */
export const useTakes = (shotId: string) =>
  useQuery({ queryKey: takesKey(shotId), queryFn: () => ask(takeListSchema, `/api/shots/${shotId}/takes`) });

export const readTakeScene = async (id: string): Promise<Scene> =>
  (await ask(takeSceneSchema, `/api/takes/${id}`)).scene;

export function useKeepTake(shotId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (take: { name: string; note: string; scene: Scene }) =>
      ask(createdSchema, `/api/shots/${shotId}/takes`, { method: 'POST', body: take }),
    // It may be all that is left of an edit: a server that is away for a while is waited for.
    retry: (count, error) => error instanceof ServerUnreachable && count < TAKE_TRIES,
    retryDelay: 2000,
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: takesKey(shotId) }),
  });
}

export function useRenameTake(shotId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, name, note }: Pick<Take, 'id' | 'name' | 'note'>) =>
      ask(nothing, `/api/takes/${id}`, { method: 'PATCH', body: { name, note } }),
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: takesKey(shotId) }),
  });
}

const EASES = ['eases'] as const;

/** The artist's own eases, kept across productions. */
export const useEases = () =>
  useQuery({ queryKey: EASES, queryFn: () => ask(easeShelfSchema, '/api/eases') });

export function useKeepEase() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (kept: { name: string; ease: Ease }) =>
      ask(createdSchema, '/api/eases', { method: 'POST', body: kept }),
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: EASES }),
  });
}

export function useTakeEaseOff() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(nothing, `/api/eases/${id}`, { method: 'DELETE' }),
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: EASES }),
  });
}

const looksKey = (productionId: string) => ['looks', productionId] as const;

/** The looks that are kept for a production. */
export const useLooks = (productionId: string) =>
  useQuery({
    queryKey: looksKey(productionId),
    queryFn: () => ask(lookShelfSchema, `/api/productions/${productionId}/looks`),
  });

export function useKeepLook(productionId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (kept: { name: string; look: TakenLook }) =>
      ask(createdSchema, `/api/productions/${productionId}/looks`, { method: 'POST', body: kept }),
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: looksKey(productionId) }),
  });
}

export function useTakeLookOff(productionId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(nothing, `/api/looks/${id}`, { method: 'DELETE' }),
    onError: said,
    onSettled: () => client.invalidateQueries({ queryKey: looksKey(productionId) }),
  });
}
