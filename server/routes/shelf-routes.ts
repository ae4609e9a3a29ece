import { newShelfPieceSchema } from '@keen-ridge/core/contract';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { addToShelf, readShelf, setOffShelf } from '../db/kept/shelf.ts';
import { idParam } from './wall-routes.ts';

export function shelfRoutes(db: Database): Router {
  const routes = Router();
  routes.get('/productions/:id/shelf', async (request, response) => {
    response.json({ pieces: await readShelf(db, idParam.parse(request.params).id) });
  });
  routes.post('/productions/:id/shelf', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await addToShelf(db, id, newShelfPieceSchema.parse(request.body)) });
  });
  routes.delete('/shelf/:id', async (request, response) => {
    await setOffShelf(db, idParam.parse(request.params).id, true);
    response.status(204).end();
  });
  routes.post('/shelf/:id/restore', async (request, response) => {
    await setOffShelf(db, idParam.parse(request.params).id, false);
    response.status(204).end();
  });
  return routes;
}
