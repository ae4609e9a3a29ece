import {
  handoffMoveSchema,
  handoffNameSchema,
  handoffRequestSchema,
  stillQuerySchema,
} from '@keen-ridge/core/contract';
import { fileStem } from '@keen-ridge/core/export';
import { Router } from 'express';
import { z } from 'zod';
import { isDatabaseGone } from '../db/connection/database-gone.ts';
import type { Database } from '../db/connection/queryable.ts';
import { notFound } from '../faults/problems.ts';
import { frameIn, framesIn } from '../handoff/frames-in.ts';
import type { HandoffDesk } from '../handoff/handoff-desk.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { stillOf } from '../pictures/stills.ts';
import { packShot } from '../shots/pack-shot.ts';
import { idParam } from './wall-routes.ts';

const TELL_EVERY_MS = 300;
/** Keeps a quiet connection from being taken for a dead one. */
const BREATHE_EVERY_MS = 15_000;

const frameParam = z.object({ index: z.coerce.number().int().min(0).max(1_000_000) });

export function handoffRoutes(db: Database, desk: HandoffDesk, renderer: FrameRenderer): Router {
  const routes = Router();
  routes.get('/shots/:id/handoffs', async (request, response) => {
    response.json(await desk.list(idParam.parse(request.params).id));
  });
  routes.post('/shots/:id/handoffs', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await desk.ask(id, handoffRequestSchema.parse(request.body)) });
  });
  /** Server-sent events (HTML Standard, section 9.2): the list whenever it has changed. */
  routes.get('/shots/:id/handoffs/events', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.set({ 'Content-Type': 'text/event-stream', 'X-Accel-Buffering': 'no' });
    response.flushHeaders();
    let open = true;
    request.on('close', () => {
      open = false;
    });
    let said = '';
    let saidAt = Number.NEGATIVE_INFINITY;
    while (open) {
      try {
        const list = JSON.stringify(await desk.list(id));
        const now = performance.now();
        if (list !== said) response.write(`data: ${list}\n\n`);
        else if (now - saidAt > BREATHE_EVERY_MS) response.write(': here\n\n');
        if (list !== said || now - saidAt > BREATHE_EVERY_MS) saidAt = now;
        said = list;
      } catch (error) {
        // The list is told again once the database is back; anything else ends the stream, and the client asks anew.
        if (!isDatabaseGone(error)) {
          response.end();
          throw error;
        }
      }
      await new Promise((resolve) => setTimeout(resolve, TELL_EVERY_MS));
    }
  });
  routes.get('/shots/:id/still', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const still = await stillOf(db, renderer, id, stillQuerySchema.parse(request.query));
    response.attachment(still.fileName);
    await still.writeTo(response);
  });
  routes.get('/shots/:id/package', async (request, response) => {
    const { name, writeTo } = await packShot(db, idParam.parse(request.params).id);
    response.attachment(`${fileStem(name)}.zip`).type('zip');
    await writeTo(response);
  });
  routes.post('/handoffs/:id/cancel', async (request, response) => {
    await desk.cancel(idParam.parse(request.params).id);
    response.status(204).end();
  });
  routes.post('/handoffs/:id/move', async (request, response) => {
    await desk.move(idParam.parse(request.params).id, handoffMoveSchema.parse(request.body).way);
    response.status(204).end();
  });
  routes.post('/handoffs/:id/name', async (request, response) => {
    await desk.rename(idParam.parse(request.params).id, handoffNameSchema.parse(request.body).name);
    response.status(204).end();
  });
  routes.delete('/handoffs/:id', async (request, response) => {
    await desk.remove(idParam.parse(request.params).id);
    response.status(204).end();
  });
  /** The film as it plays in a page: parts of it may be asked for (RFC 9110, section 14). */
  routes.get('/handoffs/:id/film', async (request, response) => {
    const { path } = await desk.file(idParam.parse(request.params).id);
    response.sendFile(path, { dotfiles: 'allow' });
  });
  /** The PNGs of a finished zip, in order, to be looked at one by one. */
  routes.get('/handoffs/:id/frames', async (request, response) => {
    const { path } = await desk.file(idParam.parse(request.params).id);
    response.json({ names: await framesIn(path) });
  });
  routes.get('/handoffs/:id/frames/:index', async (request, response) => {
    const { index } = frameParam.parse(request.params);
    const { path } = await desk.file(idParam.parse(request.params).id);
    const png = await frameIn(path, index);
    if (!png) throw notFound('This frame');
    response.set('Cache-Control', 'private, max-age=3600').type('png').send(Buffer.from(png));
  });
  routes.get('/handoffs/:id/file', async (request, response) => {
    const { path, fileName } = await desk.file(idParam.parse(request.params).id);
    response.download(path, fileName);
  });
  return routes;
}
