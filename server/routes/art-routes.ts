import { artIdSchema } from '@keen-ridge/core/document';
import { Router } from 'express';
import { z } from 'zod';
import type { Database } from '../db/database.ts';
import type { Posters } from '../services/posters.ts';
import { notFound } from '../services/problems.ts';
import { decode } from '../services/read-art.ts';
import { readArt } from '../storage/art-store.ts';

const artParam = z.object({ artId: artIdSchema });
/** The address names the content, so it never changes. */
const FOREVER = 'private, max-age=31536000, immutable';

export function artRoutes(db: Database, posters: Posters): Router {
  const routes = Router();
  /** Straight RGBA, decoded here and not by the browser, so that the picture is the hand-off bit for bit. */
  routes.get('/art/:artId/pixels', async (request, response) => {
    const stored = await readArt(db, artParam.parse(request.params).artId);
    if (!stored) throw notFound('This art');
    const pixels = await decode(stored.png);
    if (!pixels.ok) throw new Error(`Stored art ${stored.facts.id} is damaged: ${pixels.error.detail}`);
    const { buffer, byteOffset, byteLength } = pixels.value;
    response
      .type('application/octet-stream')
      .set('Cache-Control', FOREVER)
      .send(Buffer.from(buffer, byteOffset, byteLength));
  });
  routes.get('/art/:artId/thumbnail', async (request, response) => {
    const png = await posters.ofArt(artParam.parse(request.params).artId);
    response.type('png').set('Cache-Control', FOREVER).send(Buffer.from(png));
  });
  return routes;
}
