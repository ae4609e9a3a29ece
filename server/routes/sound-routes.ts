import { join } from 'node:path';
import { SOUND_TYPES } from '@keen-ridge/core/art/sound';
import { LARGEST_SOUND_BYTES, soundQuerySchema } from '@keen-ridge/core/contract/sound';
import { soundIdSchema } from '@keen-ridge/core/scene/sound';
import { Router } from 'express';
import { z } from 'zod';
import type { Database } from '../db/connection/queryable.ts';
import { readPeaks, readSound } from '../db/kept/sounds.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import type { ArtDesk } from '../imports/art-desk.ts';
import { takeSound } from '../shots/take-sound.ts';
import { goneSignal } from './http/gone.ts';
import { receiveBody } from './http/receive.ts';

const soundParam = z.object({ id: soundIdSchema });
/** What an id names never changes. */
const FOR_EVER = 'public, max-age=31536000, immutable';

/** Sounds to time by. */
export function soundRoutes(db: Database, desk: ArtDesk): Router {
  const routes = Router();
  routes.post('/sounds', async (request, response) => {
    const { name } = soundQuerySchema.parse(request.query);
    const signal = goneSignal(response);
    const taken = await desk.working(async (folder) => {
      const path = join(folder, 'sound');
      await receiveBody(request, path, LARGEST_SOUND_BYTES);
      return takeSound(db, path, signal);
    });
    if (!taken.ok) throw new ProblemError('unreadable-art', `“${name}” cannot be heard: ${taken.error}.`);
    const { id, durationSeconds } = taken.value;
    response.status(201).json({ id, name, durationSeconds });
  });
  routes.get('/sounds/:id', async (request, response) => {
    const sound = await readSound(db, soundParam.parse(request.params).id);
    if (!sound) throw notFound('This sound');
    response.set('Cache-Control', FOR_EVER).type(SOUND_TYPES[sound.kind]).send(Buffer.from(sound.bytes));
  });
  routes.get('/sounds/:id/peaks', async (request, response) => {
    const peaks = await readPeaks(db, soundParam.parse(request.params).id);
    if (!peaks) throw notFound('This sound');
    response.set('Cache-Control', FOR_EVER).type('application/octet-stream').send(Buffer.from(peaks));
  });
  return routes;
}
