import { LARGEST_UPLOAD_BYTES, opRequestSchema } from '@keen-ridge/core/contract';
import { Router, raw } from 'express';
import { z } from 'zod';
import type { Database } from '../db/database.ts';
import { importArt } from '../services/import-art.ts';
import { applyOp, readRevision, readShot } from '../services/shots.ts';
import { idParam } from './wall-routes.ts';

const fileNameParam = z.object({ name: z.string().min(1).max(500) });

export function shotRoutes(db: Database): Router {
  const routes = Router();
  routes.get('/shots/:id', async (request, response) => {
    response.json(await readShot(db, idParam.parse(request.params).id));
  });
  routes.get('/shots/:id/revision', async (request, response) => {
    response.json({ revision: await readRevision(db, idParam.parse(request.params).id) });
  });
  routes.post('/shots/:id/ops', async (request, response) => {
    const { id } = idParam.parse(request.params);
    response.json({ revision: await applyOp(db, id, opRequestSchema.parse(request.body)) });
  });
  routes.post('/art', raw({ type: () => true, limit: LARGEST_UPLOAD_BYTES }), async (request, response) => {
    const { name } = fileNameParam.parse(request.query);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    response.json(
      await importArt(db, name, new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength)),
    );
  });
  return routes;
}
