import { opRequestSchema } from '@keen-ridge/core/contract';
import { Router } from 'express';
import type { Database } from '../db/database.ts';
import { applyOp, readRevision, readShot } from '../services/shots.ts';
import { idParam } from './wall-routes.ts';

export function shotRoutes(db: Database): Router {
  const routes = Router();
  routes.get('/shots/:id', async (request, response) => {
    response.json(await readShot(db, idParam.parse(request.params).id));
  });
  routes.get('/shots/:id/revision', async (request, response) => {
    response.json({ revision: await readRevision(db, idParam.parse(request.params).id) });
  });
  routes.post('/shots/:id/ops', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.json({ revision: await applyOp(db, id, opRequestSchema.parse(request.body)) });
  });
  return routes;
}
