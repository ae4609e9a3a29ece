import { handoffRequestSchema, handoffStateSchema } from '@keen-ridge/core/contract';
import type { Production, ProductionExport, reelSchema, ShotCard } from '@keen-ridge/core/contract/wall';
import { fileStem, HANDOFF_FORMATS, type HandoffKind } from '@keen-ridge/core/export';
import { otioText, type ShotEntry, shotsCsv } from '@keen-ridge/core/export/production';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import type { z } from 'zod';
import type { Database } from '../db/connection/queryable.ts';
import { listedHandoffs } from '../db/handoffs.ts';
import { readWall } from '../db/wall.ts';
import { notFound } from '../faults/problems.ts';
import { contactSheet } from '../film/contact-sheet.ts';
import type { Posters } from '../pictures/posters.ts';
import type { SurveyDesk } from '../survey/survey-desk.ts';

const TYPES: Readonly<Record<ProductionExport, { readonly ending: string; readonly type: string }>> = {
  csv: { ending: '_shots.csv', type: 'text/csv; charset=utf-8' },
  otio: { ending: '.otio', type: 'application/json' },
  sheet: { ending: '_contact-sheet.png', type: 'image/png' },
};

/** A list of a production's shots as text; each is surveyed where it has not been as it is now. */
export async function productionExport(
  db: Database,
  { survey, posters }: { readonly survey: SurveyDesk; readonly posters: Posters },
  productionId: string,
  as: ProductionExport,
  signal: AbortSignal,
): Promise<{ readonly fileName: string; readonly type: string; readonly content: string | Buffer }> {
  const production = (await readWall(db)).find(({ id }) => id === productionId);
  if (!production) throw notFound('This production');
  const { ending, type } = TYPES[as];
  const file = { fileName: `${fileStem(production.name)}${ending}`, type };
  if (as === 'sheet') return { ...file, content: await sheetOf(production, posters, signal) };
  const entries: ShotEntry[] = [];
  for (const card of production.shots) {
    signal.throwIfAborted();
    entries.push(await entryOf(db, survey, card));
  }
  return { ...file, content: as === 'csv' ? shotsCsv(entries) : otioText(production.name, entries) };
}

/** The middle of every shot with its name and length, on one page. */
async function sheetOf({ name, shots }: Production, posters: Posters, signal: AbortSignal): Promise<Buffer> {
  const pictures = [];
  for (const shot of shots) {
    signal.throwIfAborted();
    const seconds = secondsOfFrames(shot.lengthFrames, shot.rate).toFixed(2);
    pictures.push({
      words: `${shot.name} · ${shot.lengthFrames} f · ${seconds} s`,
      png: await posters.ofShot(shot.id),
    });
  }
  const frame = shots[0]?.frame ?? { widthPx: 1920, heightPx: 1080 };
  return Buffer.from(await contactSheet(name, pictures, frame));
}

async function entryOf(db: Database, survey: SurveyDesk, card: ShotCard): Promise<ShotEntry> {
  const { id, name, frame, rate, lengthFrames, planes } = card;
  const { open, leftSo, advice } = await survey.countsOf(id);
  return {
    name,
    frame,
    rate,
    lengthFrames,
    planes,
    findings: { open, leftSo, advice },
    film: await newestFilm(db, card, isFilm),
  };
}

/** The newest film of the whole shot as long as it is now, among the kinds that are asked for. */
async function newestFilm(
  db: Database,
  { id, lengthFrames }: ShotCard,
  kinds: (kind: HandoffKind) => boolean,
): Promise<{ readonly id: string; readonly fileName: string } | null> {
  for (const row of await listedHandoffs(db, id)) {
    const request = handoffRequestSchema.safeParse(row.request).data;
    const progress = handoffStateSchema.safeParse(row.progress).data;
    if (!request || progress?.state !== 'done' || !kinds(request.kind)) continue;
    const isWhole = request.firstFrame === 1 && request.lastFrame === lengthFrames && request.handles === 0;
    if (isWhole) return { id: row.id, fileName: progress.fileName };
  }
  return null;
}

const isFilm = (kind: HandoffKind): boolean => HANDOFF_FORMATS[kind].made === 'film';
/** Kinds that a page plays. */
const PLAYED: readonly HandoffKind[] = ['webm', 'webm-av1', 'mp4'];

/** The shots of a production in their order, each with the film that a reel plays. */
export async function reelOf(db: Database, productionId: string): Promise<z.output<typeof reelSchema>> {
  const production = (await readWall(db)).find(({ id }) => id === productionId);
  if (!production) throw notFound('This production');
  const shots = await Promise.all(
    production.shots.map(async (card) => {
      const { id, name, rate, lengthFrames } = card;
      const film = await newestFilm(db, card, (kind) => PLAYED.includes(kind));
      return { id, name, rate, lengthFrames, filmId: film?.id ?? null };
    }),
  );
  return { name: production.name, shots };
}
