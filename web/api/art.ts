import {
  artAnswerSchema,
  type ChangeRequest,
  likenessesSchema,
  type MergeRequest,
  type NewShelfPiece,
  placedArtSchema,
  shelfSchema,
} from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import type { Raster } from '@keen-ridge/core/image';
import type { ArtId, ArtRef } from '@keen-ridge/core/scene';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { ask, reach, readAnswer } from './client.ts';

const nothing = z.null();

export const mergeArt = (request: MergeRequest) =>
  ask(placedArtSchema, '/api/art/merge', { method: 'POST', body: request });
export const changeArt = (artId: ArtId, change: ChangeRequest) =>
  ask(artAnswerSchema, `/api/art/${artId}/change`, { method: 'POST', body: change });
export const readLikenesses = (ids: readonly ArtId[]) =>
  ask(likenessesSchema, '/api/art/likenesses', { method: 'POST', body: { ids } });

/** Stores pixels that were made here, and returns the image that they became. */
export async function storePixels({ widthPx, heightPx, data }: Raster<'straight'>): Promise<ArtRef> {
  const response = await reach(`/api/art/pixels?widthPx=${widthPx}&heightPx=${heightPx}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: data as Uint8Array<ArrayBuffer>,
  });
  return (await readAnswer(response, artAnswerSchema)).art;
}

const shelfKey = (productionId: string) => ['shelf', productionId] as const;

export const useShelf = (productionId: string) =>
  useQuery({
    queryKey: shelfKey(productionId),
    queryFn: () => ask(shelfSchema, `/api/productions/${productionId}/shelf`),
  });

export function useShelfChange<A>(productionId: string, change: (argument: A) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => client.invalidateQueries({ queryKey: shelfKey(productionId) }),
  });
}

export const addToShelf = (productionId: string) => (piece: NewShelfPiece) =>
  ask(createdSchema, `/api/productions/${productionId}/shelf`, { method: 'POST', body: piece });
export const takeOffShelf = (id: string) => ask(nothing, `/api/shelf/${id}`, { method: 'DELETE' });
export const putBackOnShelf = (id: string) => ask(nothing, `/api/shelf/${id}/restore`, { method: 'POST' });
