import { pipeline } from 'node:stream/promises';
import { exportQuerySchema } from '@keen-ridge/core/contract/exports';
import { productionExportSchema } from '@keen-ridge/core/contract/wall';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp } from '../db/shots.ts';
import { productionExport, reelOf } from '../exports/production-export.ts';
import { ExportTooLarge, shotExport } from '../exports/shot-export.ts';
import { ProblemError } from '../faults/problems.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { named } from '../pictures/missing-art.ts';
import type { Posters } from '../pictures/posters.ts';
import type { SurveyDesk } from '../survey/survey-desk.ts';
import { goneSignal } from './http/gone.ts';
import { idParam } from './wall-routes.ts';

/** What leaves a shot at once: stage data, glTF, the camera sheet. A caller who goes away ends the work. */
export function exportRoutes(
  db: Database,
  renderer: FrameRenderer,
  survey: SurveyDesk,
  posters: Posters,
): Router {
  const routes = Router();
  routes.get('/shots/:id/export', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const asked = exportQuerySchema.parse(request.query);
    const signal = goneSignal(response);
    const shot = await readSetUp(db, id);
    const parts = { renderer: () => renderer, leftSo: () => survey.leftSoLines(id, signal) };
    const { fileName, type, content } = await shotExport(shot, asked, parts, signal).catch(
      (error: unknown) => {
        if (error instanceof ExportTooLarge) throw new ProblemError('too-large', error.message);
        return named(error);
      },
    );
    response.attachment(fileName).type(type);
    await pipeline(content, response).catch(named);
  });
  routes.get('/productions/:id/reel', async (request, response) => {
    response.json(await reelOf(db, idParam.parse(request.params).id));
  });
  routes.get('/productions/:id/export', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const { as } = productionExportSchema.parse(request.query);
    const parts = { survey, posters };
    const { fileName, type, content } = await productionExport(db, parts, id, as, goneSignal(response)).catch(
      named,
    );
    response.attachment(fileName).type(type).send(content);
  });
  return routes;
}
