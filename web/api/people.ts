import {
  type ChangePerson,
  type Me,
  membersSchema,
  meSchema,
  type NewPerson,
  peopleSchema,
  personSchema,
  type Role,
} from '@keen-ridge/core/contract/people';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { z } from 'zod';
import { ask, SIGNED_OUT } from './client.ts';

const ME = ['me'] as const;
const PEOPLE = ['people'] as const;
const membersKey = (productionId: string) => ['members', productionId] as const;
const nothing = z.null();

/** Who this browser is signed in as; read anew when the server says that nobody is any more. */
export function useMe() {
  const client = useQueryClient();
  useEffect(() => {
    const again = () => void client.invalidateQueries({ queryKey: ME });
    window.addEventListener(SIGNED_OUT, again);
    return () => window.removeEventListener(SIGNED_OUT, again);
  }, [client]);
  return useQuery({ queryKey: ME, queryFn: () => ask(meSchema, '/api/me'), staleTime: 60_000 });
}

/** What belongs to whoever was signed in before is read anew. */
export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; password: string }) =>
      ask(meSchema, '/api/me/sign-in', { method: 'POST', body }),
    onSuccess: async (me: Me) => {
      // An answer that is on its way was asked for before, when nobody was there.
      await client.cancelQueries({ queryKey: ME });
      client.setQueryData(ME, me);
      await client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] === 'wall' });
    },
  });
}

/** Nothing of theirs stays in the page. */
export async function signOut(): Promise<void> {
  await ask(nothing, '/api/me/sign-out', { method: 'POST', body: {} });
  window.location.assign('/');
}

export const changePassword = (body: { old: string; password: string }) =>
  ask(nothing, '/api/me/password', { method: 'PUT', body });

export const usePeople = () =>
  useQuery({ queryKey: PEOPLE, queryFn: () => ask(peopleSchema, '/api/people'), gcTime: 0 });

export const useMembers = (productionId: string) =>
  useQuery({
    queryKey: membersKey(productionId),
    queryFn: () => ask(membersSchema, `/api/productions/${productionId}/members`),
    gcTime: 0,
  });

/** A change of people or members; their list is read again after it. */
export function usePeopleChange<A>(
  of: { readonly productionId: string } | 'server',
  change: (argument: A) => Promise<unknown>,
) {
  const client = useQueryClient();
  const queryKey = of === 'server' ? PEOPLE : membersKey(of.productionId);
  return useMutation({ mutationFn: change, onSettled: () => client.invalidateQueries({ queryKey }) });
}

export const addPerson = (body: NewPerson) => ask(personSchema, '/api/people', { method: 'POST', body });
export const changePerson = ({ id, change }: { id: string; change: ChangePerson }) =>
  ask(nothing, `/api/people/${id}`, { method: 'PATCH', body: change });
export const removePerson = (id: string) => ask(nothing, `/api/people/${id}`, { method: 'DELETE' });

export const letIn = ({ productionId, name, role }: { productionId: string; name: string; role: Role }) =>
  ask(z.unknown(), `/api/productions/${productionId}/members`, { method: 'POST', body: { name, role } });
export const setRole = ({ productionId, id, role }: { productionId: string; id: string; role: Role }) =>
  ask(nothing, `/api/productions/${productionId}/members/${id}`, { method: 'PUT', body: { role } });
export const takeOut = ({ productionId, id }: { productionId: string; id: string }) =>
  ask(nothing, `/api/productions/${productionId}/members/${id}`, { method: 'DELETE' });
