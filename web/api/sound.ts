import { soundAnswerSchema } from '@keen-ridge/core/contract/sound';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { useQuery } from '@tanstack/react-query';
import { reach, readAnswer, readBytes } from './client.ts';

/** Sends a file of sound; the server listens to it and keeps it. */
export async function uploadSound(file: File, signal: AbortSignal) {
  const query = new URLSearchParams({ name: file.name.slice(-200) });
  return readAnswer(
    await reach(`/api/sounds?${query}`, { method: 'POST', body: file, signal }),
    soundAnswerSchema,
  );
}

export const readSoundFile = (id: SoundId, signal: AbortSignal): Promise<ArrayBuffer> =>
  readBytes(`/api/sounds/${id}`, signal);

/** How loud a sound is over time: 100 peaks a second, 0 to 255. */
export const useSoundPeaks = (id: SoundId) =>
  useQuery({
    queryKey: ['sound-peaks', id],
    queryFn: async ({ signal }) => new Uint8Array(await readBytes(`/api/sounds/${id}/peaks`, signal)),
    staleTime: Number.POSITIVE_INFINITY,
  });
