import {
  historyQuerySchema,
  opRequestSchema,
  revisionsQuerySchema,
  shotQuerySchema,
} from '@keen-ridge/core/contract';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import type { RevisionListener } from '../db/connection/revision-listener.ts';
import { readRevision, readShot } from '../db/shots.ts';
import { applyOp, readHistory, revisionsAfter } from '../shots/history.ts';
import { streamRevisions } from '../shots/revision-stream.ts';
import { idParam } from './wall-routes.ts';

export function shotRoutes(db: Database, listener: RevisionListener): Router {
  const routes = Router();
  routes.get('/shots/:id', async (request, response) => {
    const { author } = shotQuerySchema.parse(request.query);
    response.json(await readShot(db, idParam.parse(request.params).id, author));
  });
  routes.get('/shots/:id/revisions', async (request, response) => {
    const { after } = revisionsQuerySchema.parse(request.query);
    response.json({ revisions: await revisionsAfter(db, idParam.parse(request.params).id, after) });
  });
  routes.get('/shots/:id/history', async (request, response) => {
    const { newest } = historyQuerySchema.parse(request.query);
    response.json(await readHistory(db, idParam.parse(request.params).id, newest));
  });
  routes.get('/shots/:id/events', async (request, response) => {
    const { id } = idParam.parse(request.params);
    // A browser that lost its connection says by itself what it heard last.
    const heard = request.get('Last-Event-ID');
    const { after } = revisionsQuerySchema.parse(heard === undefined ? request.query : { after: heard });
    await readRevision(db, id);
    streamRevisions(db, listener, id, after, response);
  });
  routes.post('/shots/:id/ops', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.json({ revisions: await applyOp(db, id, opRequestSchema.parse(request.body)) });
  });
  return routes;
}
