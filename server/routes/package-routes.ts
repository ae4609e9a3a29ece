import { join } from 'node:path';
import { LARGEST_UPLOAD_BYTES } from '@keen-ridge/core/contract';
import {
  archiveQuerySchema,
  archiveWishSchema,
  LARGEST_ARCHIVE_BYTES,
  type OpenedArchive,
} from '@keen-ridge/core/contract/archive';
import { type OpenedShot, packageQuerySchema } from '@keen-ridge/core/contract/wall';
import { fileStem } from '@keen-ridge/core/export';
import type { ArtId } from '@keen-ridge/core/scene';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { cleanName } from '@keen-ridge/core/units';
import { Router } from 'express';
import { personOf } from '../access/asking.ts';
import { makerRuns } from '../access/productions.ts';
import type { ReadShot } from '../art/read-package.ts';
import type { Database, Queryable } from '../db/connection/queryable.ts';
import { addShot, needProduction } from '../db/wall.ts';
import type { ArtDesk } from '../imports/art-desk.ts';
import { openArchive } from '../shots/archive/archive-in.ts';
import { packProduction } from '../shots/archive/archive-out.ts';
import { takeInSound, withoutBadSound } from '../shots/take-sound.ts';
import { goneSignal } from './http/gone.ts';
import { receiveBody } from './http/receive.ts';
import { idParam } from './wall-routes.ts';

/** What is wrong with the sound of a package; null where nothing is, or there is none. */
async function faultOfSound(
  db: Database,
  folder: string,
  { scene, sound: bytes }: ReadShot,
  signal: AbortSignal,
): Promise<string | null> {
  if (!scene.sound) return null;
  return bytes ? takeInSound(db, folder, { id: scene.sound.id, bytes, signal }) : 'is not in the package';
}

/** Open packages as shots of a production. A caller who goes away ends the work, and nothing is made. */
export function packageRoutes(db: Database, desk: ArtDesk): Router {
  const routes = Router();
  routes.post('/productions/:id/packages', async (request, response) => {
    const { id: productionId } = idParam.parse(request.params);
    const { name: fileName } = packageQuerySchema.parse(request.query);
    await needProduction(db, productionId);
    const signal = goneSignal(response);
    const receive = (path: string) => receiveBody(request, path, LARGEST_UPLOAD_BYTES);
    const read = await desk.readPackage(fileName, receive, { signal });
    const soundFault = await desk.working((folder) => faultOfSound(db, folder, read, signal));
    const { scene, leftOut } = withoutBadSound(read.scene, soundFault);
    signal.throwIfAborted();
    const name = cleanName(fileName.replace(/\.zip$/i, ''), 200) || 'Shot';
    const opened: OpenedShot = {
      id: await addShot(db, { productionId, name, scene }),
      name,
      leftOut: [...read.leftOut, ...leftOut],
    };
    response.status(201).json(opened);
  });
  /** A whole production as one file. */
  routes.get('/productions/:id/archive', async (request, response) => {
    const { id } = idParam.parse(request.params);
    const { name, writeTo } = await packProduction(db, id, archiveWishSchema.parse(request.query));
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
      const keepSound = (id: SoundId, bytes: Uint8Array) => takeInSound(db, folder, { id, bytes, signal });
      const alongside = (tx: Queryable, id: string) => makerRuns(tx, personOf(response), id);
      return openArchive(db, fileName, path, { keepArt, keepSound, signal, alongside });
    });
    response.status(201).json(opened);
  });
  return routes;
}
