import { pipeline } from 'node:stream/promises';
import { exportQuerySchema } from '@keen-ridge/core/contract';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp } from '../db/shots.ts';
import { shotExport } from '../exports/shot-export.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { named } from '../pictures/missing-art.ts';
import type { SurveyDesk } from '../survey/survey-desk.ts';
import { idParam } from './wall-routes.ts';

/** What leaves a shot at once: stage data, glTF, the camera sheet. A caller who goes away ends the work. */
export function exportRoutes(db: Database, renderer: FrameRenderer, survey: SurveyDesk): Router {
  const routes = Router();
  routes.get('/shots/:id/export', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const asked = exportQuerySchema.parse(request.query);
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    const shot = await readSetUp(db, id);
    const parts = { renderer: () => renderer, leftSo: () => survey.leftSoLines(id, gone.signal) };
    const { fileName, type, content } = await shotExport(shot, asked, parts, gone.signal).catch(named);
    response.attachment(fileName).type(type);
    await pipeline(content, response);
  });
  return routes;
}
