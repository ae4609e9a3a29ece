import {
  newSetSchema,
  type SetFindings,
  setChangeSchema,
  setNameSchema,
} from '@keen-ridge/core/contract/sets';
import { setIdSchema } from '@keen-ridge/core/scene';
import { Router } from 'express';
import { z } from 'zod';
import { authorOf } from '../access/asking.ts';
import type { Database } from '../db/connection/queryable.ts';
import { makeSet, putSetAway, readSet, renameSet, usersOfSets } from '../db/kept/sets.ts';
import { changeSet, listSets } from '../shots/sets.ts';
import type { SurveyDesk } from '../survey/survey-desk.ts';
import { goneSignal } from './http/gone.ts';
import { idParam } from './wall-routes.ts';

const setParam = z.object({ id: setIdSchema });

/** Staged planes that several shots follow. */
export function setRoutes(db: Database, survey: SurveyDesk): Router {
  const routes = Router();
  routes.get('/productions/:id/sets', async (request, response) => {
    response.json({ sets: await listSets(db, idParam.parse(request.params).id) });
  });
  routes.post('/productions/:id/sets', async (request, response) => {
    const made = newSetSchema.parse(request.body);
    await makeSet(db, idParam.parse(request.params).id, made);
    response.status(201).json({ id: made.id });
  });
  routes.put('/sets/:id', async (request, response) => {
    const { id } = setParam.parse(request.params);
    const asked = setChangeSchema.parse(request.body);
    const author = authorOf(response, asked.author);
    response.json(await changeSet(db, id, { ...asked, author }));
  });
  routes.patch('/sets/:id', async (request, response) => {
    const { id } = setParam.parse(request.params);
    await renameSet(db, id, setNameSchema.parse(request.body).name);
    response.status(204).end();
  });
  routes.delete('/sets/:id', async (request, response) => {
    await putSetAway(db, setParam.parse(request.params).id);
    response.status(204).end();
  });
  /** What the survey sees in each shot that uses a set; looked at one after the other. */
  routes.get('/sets/:id/findings', async (request, response) => {
    const signal = goneSignal(response);
    const { id, productionId } = await readSet(db, setParam.parse(request.params).id);
    const told: SetFindings = { shots: [] };
    for (const { shotId, name } of (await usersOfSets(db, productionId)).get(id) ?? []) {
      signal.throwIfAborted();
      told.shots.push({ shotId, name, open: (await survey.countsOf(shotId)).open });
    }
    response.json(told);
  });
  return routes;
}
