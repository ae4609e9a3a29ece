import {
  historyQuerySchema,
  opRequestSchema,
  revisionsQuerySchema,
  shotQuerySchema,
} from '@keen-ridge/core/contract';
import { sayPresentSchema } from '@keen-ridge/core/contract/people';
import { Router } from 'express';
import { authorOf, personOf, roleOfAsking } from '../access/asking.ts';
import type { Database } from '../db/connection/queryable.ts';
import type { RevisionListener } from '../db/connection/revision-listener.ts';
import { readRevision, readShot } from '../db/shots.ts';
import type { Presence } from '../people/presence.ts';
import { applyOp, readHistory, revisionsAfter } from '../shots/history.ts';
import { NewestSteps } from '../shots/live/newest-steps.ts';
import { streamRevisions } from '../shots/live/revision-stream.ts';
import { idParam } from './wall-routes.ts';

export function shotRoutes(db: Database, listener: RevisionListener, presence: Presence): Router {
  const newest = new NewestSteps(db, listener);
  const routes = Router();
  routes.get('/shots/:id', async (request, response) => {
    const { author } = shotQuerySchema.parse(request.query);
    const asks = personOf(response)?.id ?? author;
    const shot = await readShot(db, idParam.parse(request.params).id, asks);
    response.json({ ...shot, role: roleOfAsking(response) });
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
    streamRevisions({ newest, listener, presence }, id, after, response);
  });
  /** A window says that it is there, now and then, and which plane is chosen in it. */
  routes.post('/shots/:id/present', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const said = sayPresentSchema.parse(request.body);
    await presence.say(id, { ...said, author: authorOf(response, said.author) });
    response.status(204).end();
  });
  routes.post('/shots/:id/ops', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const asked = opRequestSchema.parse(request.body);
    const author = authorOf(response, asked.author);
    response.json({ revisions: await applyOp(db, id, { ...asked, author }) });
  });
  return routes;
}
