import { changeManySchema, type ManyChange, takeOfferSchema } from '@keen-ridge/core/contract/many';
import { Router } from 'express';
import { authorOf, personOf } from '../access/asking.ts';
import { seenBy } from '../access/productions.ts';
import type { Database } from '../db/connection/queryable.ts';
import { notFound } from '../faults/problems.ts';
import type { WatchedFolder } from '../imports/watched-folder.ts';
import { changeMany } from '../shots/change-many.ts';
import { goneSignal } from './http/gone.ts';
import { idParam } from './wall-routes.ts';

/** What is done to several shots at once, and what a watched folder has to offer them. */
export function manyRoutes(db: Database, watched: WatchedFolder | null): Router {
  const routes = Router();
  routes.post('/shots/change', async (request, response) => {
    const asked = changeManySchema.parse(request.body);
    const author = authorOf(response, asked.author);
    response.json(await changeMany(db, { ...asked, author }, goneSignal(response)));
  });
  routes.get('/offers', async (_request, response) => {
    const sees = await seenBy(db, personOf(response));
    response.json({ folder: watched?.folder ?? null, offers: watched?.offers(sees) ?? [] });
  });
  routes.post('/offers/:id/take', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const paintings = watched?.paintingsOf(id);
    if (!watched || !paintings) throw notFound('This version');
    const { shotIds, author } = takeOfferSchema.parse(request.body);
    const change: ManyChange = { kind: 'art', paintings: [...paintings] };
    const by = authorOf(response, author);
    const done = await changeMany(db, { shotIds, author: by, change }, goneSignal(response));
    // What was left in one of them stays offered there.
    watched.taken(
      id,
      [...done.changed, ...done.same].map((shot) => shot.id),
    );
    response.json(done);
  });
  routes.delete('/offers/:id', (request, response) => {
    watched?.drop(idParam.parse(request.params).id);
    response.status(204).end();
  });
  return routes;
}
