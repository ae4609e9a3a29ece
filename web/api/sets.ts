import {
  type NewSet,
  type SetChange,
  setChangedSchema,
  setFindingsSchema,
  setListSchema,
} from '@keen-ridge/core/contract/sets';
import type { SetId } from '@keen-ridge/core/scene';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from './client.ts';

const setsKey = (productionId: string) => ['sets', productionId] as const;
const nothing = z.null();

/** The sets of a production, each with the shots that use it; asked for anew when `links` of the shot change. */
export const useSets = (productionId: string, links: string) =>
  useQuery({
    queryKey: [...setsKey(productionId), links],
    queryFn: () => ask(setListSchema, `/api/productions/${productionId}/sets`),
    placeholderData: (before) => before,
  });

/** A change of a production's sets; they are read again after it. */
export function useSetChange<A, R>(productionId: string, change: (argument: A) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: setsKey(productionId) }),
  });
}

export const makeSet = (productionId: string) => (set: NewSet) =>
  ask(z.object({ id: z.string() }), `/api/productions/${productionId}/sets`, { method: 'POST', body: set });
export const changeSet = ({ id, change }: { id: SetId; change: SetChange }) =>
  ask(setChangedSchema, `/api/sets/${id}`, { method: 'PUT', body: change });
export const renameSet = ({ id, name }: { id: SetId; name: string }) =>
  ask(nothing, `/api/sets/${id}`, { method: 'PATCH', body: { name } });
export const putSetAway = (id: SetId) => ask(nothing, `/api/sets/${id}`, { method: 'DELETE' });
export const readSetFindings = (id: SetId) => ask(setFindingsSchema, `/api/sets/${id}/findings`);
