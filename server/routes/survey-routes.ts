import { guidesQuerySchema, surveyLimitsSchema } from '@keen-ridge/core/contract';
import { fileStem } from '@keen-ridge/core/export';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { keepSurveyLimits, readSurveyLimits } from '../db/survey-limits.ts';
import { writeZip } from '../survey/guide-files.ts';
import type { SurveyDesk } from '../survey/survey-desk.ts';
import { goneSignal } from './http/gone.ts';
import { idParam } from './wall-routes.ts';

export function surveyRoutes(db: Database, desk: SurveyDesk): Router {
  const routes = Router();
  routes.get('/productions/:id/survey-limits', async (request, response) => {
    response.json(await readSurveyLimits(db, idParam.parse(request.params).id));
  });
  routes.put('/productions/:id/survey-limits', async (request, response) => {
    const limits = surveyLimitsSchema.parse(request.body);
    await keepSurveyLimits(db, idParam.parse(request.params).id, limits);
    response.status(204).end();
  });
  routes.get('/shots/:id/survey/counts', async (request, response) => {
    response.json(await desk.countsOf(idParam.parse(request.params).id));
  });
  routes.get('/shots/:id/survey/guides', async (request, response) => {
    const { format, planes } = guidesQuerySchema.parse(request.query);
    const { id } = idParam.parse(request.params);
    const { shotName, count, files } = await desk.guides(id, planes, format, goneSignal(response));
    if (count === 1 && planes !== null) {
      const { value } = await files.next();
      if (value) response.attachment(value.name).send(Buffer.from(value.bytes));
      return;
    }
    response.attachment(`${fileStem(shotName)}_guides.zip`);
    await writeZip(response, files);
  });
  for (const what of ['report', 'paint-list'] as const)
    routes.get(`/shots/:id/survey/${what}.pdf`, async (request, response) => {
      const { id } = idParam.parse(request.params);
      const { shotName, bytes } = await desk.pdf(id, what, goneSignal(response));
      response.attachment(`${fileStem(shotName)}_${what}.pdf`).send(Buffer.from(bytes));
    });
  return routes;
}
