import type { Box } from '@keen-ridge/core/geometry';
import type { ArtRef, PlaneId } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import {
  type AlphaMap,
  alphaMapOf,
  findingsOf,
  paintList,
  type SurveyRows,
  SurveyRun,
} from '@keen-ridge/core/survey';
import type { FromSurveyWorker, SurveyAnswer, ToSurveyWorker } from './survey-messages.ts';

/** How long it works before it listens again, ms. */
const TURN_MS = 12;
const PAUSE_MS = 120;
const HEADER_BYTES = 8;

/** How much paint arts have; asked for once, since an art never changes. */
const maps = new Map<string, Promise<AlphaMap>>();
let newest = 0;
let waits = false;

async function fetchMap({ id, widthPx, heightPx }: ArtRef): Promise<AlphaMap> {
  const response = await fetch(`/api/art/${id}/alpha`);
  if (!response.ok) throw new Error(`The art could not be read (${response.status}).`);
  const bytes = await response.arrayBuffer();
  const header = new DataView(bytes);
  const [columns, rows] = [header.getUint32(0, true), header.getUint32(4, true)];
  return alphaMapOf(widthPx, heightPx, { columns, rows, data: new Uint8Array(bytes, HEADER_BYTES) });
}

function mapOf(art: ArtRef): Promise<AlphaMap> {
  const known = maps.get(art.id);
  if (known) return known;
  const fetched = fetchMap(art);
  maps.set(art.id, fetched);
  // What could not be fetched now may be in a moment.
  fetched.catch(() => maps.delete(art.id));
  return fetched;
}

const say = (message: FromSurveyWorker): void => postMessage(message);
const turn = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function survey({ id, scene, limits }: Extract<ToSurveyWorker, { kind: 'survey' }>): Promise<void> {
  const began = performance.now();
  const arts = planesOf(scene)
    .filter((plane) => !plane.hidden)
    .flatMap(({ content }) => shownArts(content));
  const known = new Map<string, AlphaMap>();
  for (const art of new Map(arts.map((one) => [one.id, one])).values()) {
    known.set(art.id, await mapOf(art));
    if (id !== newest) return;
  }
  const run = new SurveyRun(scene, (artId) => known.get(artId) ?? null);
  let since = performance.now();
  let said = since;
  while (run.step()) {
    const now = performance.now();
    if (now - since < TURN_MS) continue;
    if (now - said > 100) {
      say({ kind: 'progress', id, done: run.done, total: scene.lengthFrames });
      said = now;
    }
    do await turn(waits ? PAUSE_MS : 0);
    while (waits && id === newest);
    if (id !== newest) return;
    since = performance.now();
  }
  const { rows } = run;
  say({ kind: 'answer', id, answer: answerOf(rows, limits), tookMs: performance.now() - began });
}

function answerOf(rows: SurveyRows, limits: Parameters<typeof findingsOf>[1]): SurveyAnswer {
  const ribbons = [...rows.planes.values()].map(({ planeId, inside, looksTo, seenPx }) => ({
    planeId,
    inside,
    looksTo,
    seenPx,
  }));
  const bare = new Map<PlaneId, Box[]>();
  for (const [planeId, { bare: spot }] of rows.reveals)
    bare.set(
      planeId,
      spot.cells.flatMap((cell, i): Box[] => {
        if (spot.seen[i] !== 1) return [];
        const [c, r] = [cell % spot.columns, Math.floor(cell / spot.columns)];
        const { cellPx } = spot;
        return [{ x0: c * cellPx, y0: r * cellPx, x1: (c + 1) * cellPx, y1: (r + 1) * cellPx }];
      }),
    );
  const findings = findingsOf(rows, limits);
  return { findings, ribbons, needs: paintList(rows, findings), bare };
}

self.onmessage = ({ data }: MessageEvent<ToSurveyWorker>) => {
  if (data.kind === 'wait') {
    waits = data.waits;
    return;
  }
  newest = data.id;
  survey(data).catch((error: unknown) =>
    say({ kind: 'failed', id: data.id, reason: error instanceof Error ? error.message : String(error) }),
  );
};
