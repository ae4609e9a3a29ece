import {
  duplicateSchema,
  moveShotSchema,
  newProductionSchema,
  newShotSchema,
  orderSchema,
  renameSchema,
} from '@keen-ridge/core/contract/wall';
import { Router } from 'express';
import { z } from 'zod';
import { personOf } from '../access/asking.ts';
import { makerRuns, seenBy } from '../access/productions.ts';
import type { Database } from '../db/connection/queryable.ts';
import {
  duplicateShot,
  makeProduction,
  makeShot,
  moveShot,
  orderShots,
  readBin,
  readWall,
  rename,
  setDeleted,
} from '../db/wall.ts';
import type { Posters } from '../pictures/posters.ts';
import { sceneAt } from '../shots/history.ts';

export const idParam = z.object({ id: z.uuid() });
const pointParam = idParam.extend({ revision: z.coerce.number().int().min(1) });

export function wallRoutes(db: Database, posters: Posters): Router {
  const routes = Router();
  routes.get('/wall', async (_request, response) => {
    const sees = await seenBy(db, personOf(response));
    response.json({ productions: (await readWall(db)).filter(({ id }) => sees(id)) });
  });
  routes.post('/productions', async (request, response) => {
    const { name } = newProductionSchema.parse(request.body);
    const id = await db.transaction(async (tx) => {
      const made = await makeProduction(tx, name);
      await makerRuns(tx, personOf(response), made);
      return made;
    });
    response.status(201).json({ id });
  });
  routes.post('/productions/:id/shots', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await makeShot(db, id, newShotSchema.parse(request.body)) });
  });
  routes.put('/productions/:id/order', async (request, response) => {
    const { shotIds } = orderSchema.parse(request.body);
    await orderShots(db, idParam.parse(request.params).id, shotIds);
    response.status(204).end();
  });
  routes.post('/shots/:id/duplicate', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await duplicateShot(db, id, duplicateSchema.parse(request.body)) });
  });
  routes.put('/shots/:id/production', async (request, response) => {
    const { productionId } = moveShotSchema.parse(request.body);
    await moveShot(db, idParam.parse(request.params).id, productionId);
    response.status(204).end();
  });
  routes.get('/bin', async (_request, response) => {
    const sees = await seenBy(db, personOf(response));
    response.json({ items: await readBin(db, sees) });
  });
  for (const kind of ['production', 'shot'] as const) {
    routes.patch(`/${kind}s/:id`, async (request, response) => {
      await rename(db, kind, idParam.parse(request.params).id, renameSchema.parse(request.body).name);
      response.status(204).end();
    });
    routes.delete(`/${kind}s/:id`, async (request, response) => {
      await setDeleted(db, kind, idParam.parse(request.params).id, true);
      response.status(204).end();
    });
    routes.post(`/${kind}s/:id/restore`, async (request, response) => {
      await setDeleted(db, kind, idParam.parse(request.params).id, false);
      response.status(204).end();
    });
  }
  routes.get('/shots/:id/picture', async (request, response) => {
    const png = await posters.ofShot(idParam.parse(request.params).id);
    response.type('png').set('Cache-Control', 'no-cache').send(Buffer.from(png));
  });
  routes.get('/shots/:id/history/:revision/picture', async (request, response) => {
    const { id, revision } = pointParam.parse(request.params);
    const png = await posters.ofPoint(id, revision, () => sceneAt(db, id, revision));
    response.type('png').set('Cache-Control', 'private, max-age=3600').send(Buffer.from(png));
  });
  return routes;
}
