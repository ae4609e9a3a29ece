import {
  newKeptEaseSchema,
  newKeptLookSchema,
  newTakeSchema,
  takeWordsSchema,
} from '@keen-ridge/core/contract/wall';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { keepLook, readLooks, takeLookOff } from '../db/kept/looks.ts';
import {
  keepEase,
  keepTake,
  readEases,
  readTakeScene,
  readTakes,
  renameTake,
  takeEaseOff,
} from '../db/takes.ts';
import { idParam } from './wall-routes.ts';

export function takeRoutes(db: Database): Router {
  const routes = Router();
  routes.get('/shots/:id/takes', async (request, response) => {
    response.json({ takes: await readTakes(db, idParam.parse(request.params).id) });
  });
  routes.post('/shots/:id/takes', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await keepTake(db, id, newTakeSchema.parse(request.body)) });
  });
  routes.get('/takes/:id', async (request, response) => {
    response.json({ scene: await readTakeScene(db, idParam.parse(request.params).id) });
  });
  routes.patch('/takes/:id', async (request, response) => {
    await renameTake(db, idParam.parse(request.params).id, takeWordsSchema.parse(request.body));
    response.status(204).end();
  });
  routes.get('/eases', async (_request, response) => {
    response.json({ eases: await readEases(db) });
  });
  routes.post('/eases', async (request, response) => {
    response.status(201).json({ id: await keepEase(db, newKeptEaseSchema.parse(request.body)) });
  });
  routes.delete('/eases/:id', async (request, response) => {
    await takeEaseOff(db, idParam.parse(request.params).id);
    response.status(204).end();
  });
  routes.get('/productions/:id/looks', async (request, response) => {
    response.json({ looks: await readLooks(db, idParam.parse(request.params).id) });
  });
  routes.post('/productions/:id/looks', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.status(201).json({ id: await keepLook(db, id, newKeptLookSchema.parse(request.body)) });
  });
  routes.delete('/looks/:id', async (request, response) => {
    await takeLookOff(db, idParam.parse(request.params).id);
    response.status(204).end();
  });
  return routes;
}
