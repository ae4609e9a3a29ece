import { handoffRequestSchema } from '@keen-ridge/core/contract';
import { Router } from 'express';
import type { Database } from '../db/database.ts';
import { filmToolPresent } from '../jobs/film.ts';
import { fileStem, type HandoffRunner } from '../jobs/handoff-runner.ts';
import { packShot } from '../services/pack-shot.ts';
import { idParam } from './wall-routes.ts';

export function handoffRoutes(db: Database, runner: HandoffRunner): Router {
  const routes = Router();
  routes.get('/shots/:id/handoffs', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.json({ handoffs: await runner.list(id), filmReady: filmToolPresent() });
  });
  routes.post('/shots/:id/handoffs', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await runner.ask(id, handoffRequestSchema.parse(request.body)) });
  });
  routes.get('/shots/:id/package', async (request, response) => {
    const { name, bytes } = await packShot(db, idParam.parse(request.params).id);
    response
      .attachment(`${fileStem(name)}.zip`)
      .type('zip')
      .send(Buffer.from(bytes));
  });
  routes.post('/handoffs/:id/cancel', async (request, response) => {
    await runner.cancel(idParam.parse(request.params).id);
    response.status(204).end();
  });
  routes.get('/handoffs/:id/file', async (request, response) => {
    const { path, fileName } = await runner.file(idParam.parse(request.params).id);
    response.download(path, fileName);
  });
  return routes;
}
