import {
  changeRequestSchema,
  type ImportLine,
  LARGEST_UPLOAD_BYTES,
  likenessesRequestSchema,
  mergeRequestSchema,
  pixelsQuerySchema,
  uploadQuerySchema,
} from '@keen-ridge/core/contract';
import { artOfEdge } from '@keen-ridge/core/picture';
import { type ArtId, artIdSchema } from '@keen-ridge/core/scene';
import { cleanName } from '@keen-ridge/core/units';
import { Router } from 'express';
import { z } from 'zod';
import { decodeStored } from '../art/decode.ts';
import { readArt, readLikenesses, storedOf } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { notFound } from '../faults/problems.ts';
import type { ArtDesk } from '../imports/art-desk.ts';
import type { Posters } from '../pictures/posters.ts';
import { ArtUnreadable } from '../storage/art-levels.ts';
import type { AlphaMaps } from '../survey/alpha-maps.ts';
import { problemOf } from './http/answer-problem.ts';
import { goneSignal } from './http/gone.ts';
import { receiveBody } from './http/receive.ts';

const artParam = z.object({ artId: artIdSchema });
const whole = z.coerce.number().int().min(0);
/** Art, or the distances to its edge. */
const levelsParam = z.object({
  artId: z
    .string()
    .refine((name) => artIdSchema.safeParse(artOfEdge(name)?.artId ?? name).success, 'is no art')
    .transform((name) => name as ArtId),
});
const chunksParam = levelsParam.extend({ level: whole.max(40) });
const rectQuery = z.object({ c0: whole, r0: whole, c1: whole, r1: whole });
/** The address names the content, so it never changes. */
const FOREVER = 'private, max-age=31536000, immutable';
const LINES = 'application/x-ndjson';

/** Art that is not stored, or not whole, is not there for whoever asks. */
const readable = <T>(work: Promise<T>): Promise<T> =>
  work.catch((error: unknown) => {
    if (error instanceof ArtUnreadable) throw notFound('This art');
    throw error;
  });

export function artRoutes(db: Database, posters: Posters, desk: ArtDesk, maps: AlphaMaps): Router {
  const routes = Router();
  routes.post('/art', async (request, response) => {
    const { name, svgScale } = uploadQuerySchema.parse(request.query);
    const receive = (path: string) => receiveBody(request, path, LARGEST_UPLOAD_BYTES);
    const signal = goneSignal(response);
    if (request.headers.accept !== LINES) {
      response.json(await desk.read(name, receive, svgScale, { signal }));
      return;
    }
    response.type(LINES);
    const say = (line: ImportLine) => response.write(`${JSON.stringify(line)}\n`);
    try {
      const art = await desk.read(name, receive, svgScale, {
        signal,
        onProgress: (done, total, what) => say({ kind: 'progress', done, total, what: cleanName(what, 200) }),
      });
      say({ kind: 'done', art });
    } catch (error) {
      if (!signal.aborted) say({ kind: 'problem', problem: problemOf(error) });
    }
    response.end();
  });
  routes.post('/art/merge', async (request, response) => {
    response.json(await desk.merge(mergeRequestSchema.parse(request.body)));
  });
  routes.post('/art/likenesses', async (request, response) => {
    response.json({ likenesses: await readLikenesses(db, likenessesRequestSchema.parse(request.body).ids) });
  });
  routes.post('/art/pixels', async (request, response) => {
    const { widthPx, heightPx } = pixelsQuerySchema.parse(request.query);
    const receive = (path: string) => receiveBody(request, path, widthPx * heightPx * 4);
    response.json(await desk.encode(receive, widthPx, heightPx));
  });
  routes.post('/art/:artId/change', async (request, response) => {
    const { artId } = artParam.parse(request.params);
    response.json(await desk.change(artId, changeRequestSchema.parse(request.body)));
  });
  /** Straight RGBA, decoded here and not by the browser, so that the picture is the hand-off bit for bit. */
  routes.get('/art/:artId/pixels', async (request, response) => {
    const stored = await readArt(db, artParam.parse(request.params).artId);
    if (!stored) throw notFound('This art');
    const pixels = await decodeStored(stored.png);
    if (!pixels.ok) throw new Error(`Stored art ${stored.facts.id} is damaged: ${pixels.error.detail}`);
    const { buffer, byteOffset, byteLength } = pixels.value.data;
    response
      .type('application/octet-stream')
      .set('Cache-Control', FOREVER)
      .send(Buffer.from(buffer as ArrayBuffer, byteOffset, byteLength));
  });
  /** How much paint the art has, for the survey: columns and rows as 32 bits, little endian, then alpha by the texel. */
  routes.get('/art/:artId/alpha', async (request, response) => {
    const { artId } = artParam.parse(request.params);
    if (!(await storedOf(db, [artId])).has(artId)) throw notFound('This art');
    const { columns, rows, data: alpha } = (await maps.of(artId)).levels[0]!;
    const body = Buffer.alloc(8 + alpha.length);
    body.writeUInt32LE(columns, 0);
    body.writeUInt32LE(rows, 4);
    body.set(alpha, 8);
    response.type('application/octet-stream').set('Cache-Control', FOREVER).send(body);
  });
  routes.get('/art/:artId/levels', async (request, response) => {
    const { artId } = levelsParam.parse(request.params);
    const manifest = await readable(desk.levels.manifest(artId));
    response.set('Cache-Control', FOREVER).json(manifest);
  });
  routes.get('/art/:artId/levels/:level', async (request, response) => {
    const { artId, level } = chunksParam.parse(request.params);
    const rect = rectQuery.parse(request.query);
    const chunks = await readable(desk.levels.chunks(artId, level, rect));
    if (!chunks) throw notFound('This part of the art');
    response.type('application/octet-stream').set('Cache-Control', FOREVER).send(chunks);
  });
  for (const [path, size] of [
    ['thumbnail', 'small'],
    ['preview', 'large'],
  ] as const) {
    routes.get(`/art/:artId/${path}`, async (request, response) => {
      const png = await posters.ofArt(artParam.parse(request.params).artId, size);
      response.type('png').set('Cache-Control', FOREVER).send(Buffer.from(png));
    });
  }
  return routes;
}
