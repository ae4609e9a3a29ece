import { soundAnswerSchema } from '@keen-ridge/core/contract/sound';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { useQuery } from '@tanstack/react-query';
import { readAnswer, refusalFrom } from './client.ts';

/** Sends a file of sound; the server listens to it and keeps it. */
export async function uploadSound(file: File, signal: AbortSignal) {
  const query = new URLSearchParams({ name: file.name.slice(-200) });
  return readAnswer(
    await fetch(`/api/sounds?${query}`, { method: 'POST', body: file, signal }),
    soundAnswerSchema,
  );
}

export async function readSoundFile(id: SoundId, signal: AbortSignal): Promise<ArrayBuffer> {
  const answer = await fetch(`/api/sounds/${id}`, { signal });
  if (!answer.ok) throw refusalFrom(answer.status, await answer.text());
  return answer.arrayBuffer();
}

/** How loud a sound is over time: 100 peaks a second, 0 to 255. */
export const useSoundPeaks = (id: SoundId) =>
  useQuery({
    queryKey: ['sound-peaks', id],
    queryFn: async ({ signal }): Promise<Uint8Array> => {
      const answer = await fetch(`/api/sounds/${id}/peaks`, { signal });
      if (!answer.ok) throw refusalFrom(answer.status, await answer.text());
      return new Uint8Array(await answer.arrayBuffer());
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
