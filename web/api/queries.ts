import { type OpenedArchive, openedArchiveSchema } from '@keen-ridge/core/contract/archive';
import {
  binSchema,
  createdSchema,
  type NewShot,
  type OpenedShot,
  openedShotSchema,
  reelSchema,
  wallSchema,
} from '@keen-ridge/core/contract/wall';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { ask, reach, readAnswer } from './client.ts';

export const WALL_KEY = ['wall'] as const;
const nothing = z.null();

export const useWall = () => useQuery({ queryKey: WALL_KEY, queryFn: () => ask(wallSchema, '/api/wall') });

export const useReel = (productionId: string) =>
  useQuery({
    queryKey: ['reel', productionId],
    queryFn: () => ask(reelSchema, `/api/productions/${productionId}/reel`),
  });

/** A change of the wall; the wall is read again after it. */
export function useWallChange<A, R>(change: (argument: A) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: WALL_KEY }),
  });
}

export type Kind = 'production' | 'shot';

export const makeProduction = (name: string) =>
  ask(createdSchema, '/api/productions', { method: 'POST', body: { name } });
export const makeShot = ({ productionId, shot }: { productionId: string; shot: NewShot }) =>
  ask(createdSchema, `/api/productions/${productionId}/shots`, { method: 'POST', body: shot });
/** A package as a shot of a production; what it lacks is told. */
export async function openPackage({
  productionId,
  file,
  signal,
}: {
  productionId: string;
  file: File;
  signal: AbortSignal;
}): Promise<OpenedShot> {
  const query = new URLSearchParams({ name: file.name });
  const address = `/api/productions/${productionId}/packages?${query}`;
  return readAnswer(await reach(address, { method: 'POST', body: file, signal }), openedShotSchema);
}
/** An archive as a production. */
export async function openArchive({
  file,
  signal,
}: {
  file: File;
  signal: AbortSignal;
}): Promise<OpenedArchive> {
  const query = new URLSearchParams({ name: file.name });
  const answer = await reach(`/api/archives?${query}`, { method: 'POST', body: file, signal });
  return readAnswer(answer, openedArchiveSchema);
}
export const renameIt = ({ kind, id, name }: { kind: Kind; id: string; name: string }) =>
  ask(nothing, `/api/${kind}s/${id}`, { method: 'PATCH', body: { name } });
export const deleteIt = ({ kind, id }: { kind: Kind; id: string }) =>
  ask(nothing, `/api/${kind}s/${id}`, { method: 'DELETE' });
export const restoreIt = ({ kind, id }: { kind: Kind; id: string }) =>
  ask(nothing, `/api/${kind}s/${id}/restore`, { method: 'POST' });
export const duplicateIt = ({ id, name, withMove }: { id: string; name: string; withMove: boolean }) =>
  ask(createdSchema, `/api/shots/${id}/duplicate`, { method: 'POST', body: { name, withMove } });
export const moveToProduction = ({ id, productionId }: { id: string; productionId: string }) =>
  ask(nothing, `/api/shots/${id}/production`, { method: 'PUT', body: { productionId } });
export const orderShots = ({ productionId, shotIds }: { productionId: string; shotIds: readonly string[] }) =>
  ask(nothing, `/api/productions/${productionId}/order`, { method: 'PUT', body: { shotIds } });

/** What was deleted, read when the bin is opened. */
export const useBin = () =>
  useQuery({ queryKey: [...WALL_KEY, 'bin'], queryFn: () => ask(binSchema, '/api/bin') });
