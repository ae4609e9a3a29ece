import { LARGEST_UPLOAD_BYTES } from '@keen-ridge/core/contract';
import { type OpenedShot, packageQuerySchema } from '@keen-ridge/core/contract/wall';
import { cleanName } from '@keen-ridge/core/units';
import { Router } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import { addShot, needProduction } from '../db/wall.ts';
import type { ArtDesk } from '../imports/art-desk.ts';
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
  return routes;
}
