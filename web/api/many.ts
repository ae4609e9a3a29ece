import { surveyCountsSchema } from '@keen-ridge/core/contract';
import { type ChangeMany, changedManySchema, offersSchema } from '@keen-ridge/core/contract/many';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from './client.ts';

/** Does the same to several shots. */
export const changeMany = (request: ChangeMany, signal: AbortSignal) =>
  ask(changedManySchema, '/api/shots/change', { method: 'POST', body: request, signal });

/** What the survey has to say of a shot, as its server counts it. */
export const readCounts = (shotId: string, signal: AbortSignal) =>
  ask(surveyCountsSchema, `/api/shots/${shotId}/survey/counts`, { signal });

const OFFERS = ['offers'] as const;
/** How often it is asked what a painter has saved: only where a folder is watched. */
const LOOK_EVERY_MS = 5000;

export const useOffers = () =>
  useQuery({
    queryKey: OFFERS,
    queryFn: () => ask(offersSchema, '/api/offers'),
    refetchInterval: ({ state }) => (state.data?.folder ? LOOK_EVERY_MS : false),
  });

export function useForgetOffers(): () => void {
  const client = useQueryClient();
  return () => void client.invalidateQueries({ queryKey: OFFERS });
}

export const takeOffer = (id: string, taken: Omit<ChangeMany, 'change'>, signal: AbortSignal) =>
  ask(changedManySchema, `/api/offers/${id}/take`, { method: 'POST', body: taken, signal });
export const dropOffer = (id: string) => ask(z.null(), `/api/offers/${id}`, { method: 'DELETE' });
