import { join } from 'node:path';
import { LARGEST_UPLOAD_BYTES } from '@keen-ridge/core/contract';
import {
  archiveQuerySchema,
  LARGEST_ARCHIVE_BYTES,
  type OpenedArchive,
} from '@keen-ridge/core/contract/archive';
import { type OpenedShot, packageQuerySchema } from '@keen-ridge/core/contract/wall';
import { fileStem } from '@keen-ridge/core/export';
import type { ArtId } from '@keen-ridge/core/scene';
import { cleanName } from '@keen-ridge/core/units';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { addShot, needProduction } from '../db/wall.ts';
import type { ArtDesk } from '../imports/art-desk.ts';
import { openArchive } from '../shots/archive-in.ts';
import { packProduction } from '../shots/archive-out.ts';
import { goneSignal } from './gone.ts';
import { receiveBody } from './receive.ts';
import { idParam } from './wall-routes.ts';

/** Open packages as shots of a production. A caller who goes away ends the work, and nothing is made. */
export function packageRoutes(db: Database, desk: ArtDesk): Router {
  const routes = Router();
  routes.post('/productions/:id/packages', async (request, response) => {
    const { id: productionId } = idParam.parse(request.params);
    const { name: fileName } = packageQuerySchema.parse(request.query);
    await needProduction(db, productionId);
    const signal = goneSignal(response);
    const receive = (path: string) => receiveBody(request, path, LARGEST_UPLOAD_BYTES);
    const { scene, leftOut } = await desk.readPackage(fileName, receive, { signal });
    signal.throwIfAborted();
    const name = cleanName(fileName.replace(/\.zip$/i, ''), 200) || 'Shot';
    const opened: OpenedShot = {
      id: await addShot(db, { productionId, name, scene }),
      name,
      leftOut: [...leftOut],
    };
    response.status(201).json(opened);
  });
  /** A whole production as one file. */
  routes.get('/productions/:id/archive', async (request, response) => {
    const { name, writeTo } = await packProduction(db, idParam.parse(request.params).id);
    response.attachment(`${fileStem(name)}_production.zip`).type('zip');
    await writeTo(response, goneSignal(response));
  });
  routes.post('/archives', async (request, response) => {
    const { name: fileName } = archiveQuerySchema.parse(request.query);
    const signal = goneSignal(response);
    const opened: OpenedArchive = await desk.working(async (folder) => {
      const path = join(folder, 'archive.zip');
      await receiveBody(request, path, LARGEST_ARCHIVE_BYTES);
      const keepArt = (id: ArtId, png: Uint8Array) => desk.takeIn(id, png, signal);
      return openArchive(db, fileName, path, { keepArt, signal });
    });
    response.status(201).json(opened);
  });
  return routes;
}
