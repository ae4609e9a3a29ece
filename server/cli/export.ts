import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { basename, dirname, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { ShotPackage } from '@keen-ridge/core/art/package';
import {
  EXPORTS_OF,
  type ExportKind,
  type ExportQuery,
  exportQuerySchema,
  SHEET_PAPERS,
} from '@keen-ridge/core/contract/exports';
import type { Scene } from '@keen-ridge/core/scene';
import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { ExportTooLarge, shotExport } from '../exports/shot-export.ts';
import { ArtMissing } from '../pictures/frame-renderer.ts';
import { leftSoLines } from '../survey/reports.ts';
import { surveyAtOnce } from '../threads/survey-worker.ts';
import { readPlanes, readWhole } from './arguments.ts';
import { openPackage } from './package-file.ts';
import { withRenderer } from './package-renderer.ts';
import { mapsOf } from './survey.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';
import { writeWhole } from './write-whole.ts';

export interface ExportWishes {
  readonly as: string;
  readonly out: string;
  /** `camera`, `datum`, or names of planes with a comma between them; everything without it. */
  readonly of: string | undefined;
  readonly art: string | undefined;
  readonly paper: string | undefined;
  readonly from: string;
}

const KINDS = ['csv', 'json', 'glb', 'sheet', 'stills'] as const;

/** Stage data, glTF, the camera sheet or the still set of a package: the same bytes as the server's. */
export async function exportShot(path: string, wishes: ExportWishes): Promise<string> {
  const opened = await openPackage(resolve(wishes.from, path));
  const asked = askedOf(opened.scene, wishes);
  const out = resolve(wishes.from, wishes.out);
  await told(wishes.out, () => mkdir(dirname(out), { recursive: true }));
  const shot = { name: basename(path).replace(/\.zip$/i, ''), scene: opened.scene };
  try {
    await withRenderer(opened.art, async (renderer) => {
      const parts = { renderer: () => renderer, leftSo: () => leftSoOf(opened) };
      const { content } = await shotExport(shot, asked, parts);
      await writeWhole(out, wishes.out, (part) => pipeline(content, createWriteStream(part)));
    });
  } catch (error) {
    if (error instanceof ExportTooLarge) throw new UsageFault(`${path}: ${error.message}`);
    if (error instanceof ArtMissing) throw new UsageFault(`${path}: ${error.message}`);
    throw error;
  }
  return `${wishes.out}: ${wishes.as} of ${opened.scene.lengthFrames} frames`;
}

function askedOf(scene: Scene, { as, out, of, art, paper }: ExportWishes): ExportQuery {
  const kind = KINDS.find((known) => known === as);
  if (!kind) throw new UsageFault(`--as ${as}: there are ${KINDS.join(', ')}`);
  if (paper !== undefined && !SHEET_PAPERS.some((known) => known === paper))
    throw new UsageFault(`--paper ${paper}: there are ${SHEET_PAPERS.join(', ')}`);
  const made: ExportKind =
    kind !== 'sheet' ? kind : out.toLowerCase().endsWith('.svg') ? 'sheet-svg' : 'sheet-pdf';
  const whole = of === undefined ? 'all' : EXPORTS_OF.find((known) => known === of);
  return exportQuerySchema.parse({
    as: made,
    of: whole ?? 'planes',
    planes: whole ? '' : readPlanes('--of', scene, of ?? '').join(','),
    ...(art === undefined ? {} : { art: readWhole('--art', art, 16, 8192) }),
    ...(paper === undefined ? {} : { paper }),
  });
}

async function leftSoOf({ scene, art }: ShotPackage): Promise<string[]> {
  if (Object.keys(scene.survey?.leftSo ?? {}).length === 0) return [];
  const maps = await mapsOf(scene, art);
  return leftSoLines(scene, surveyAtOnce({ scene, maps, limits: USUAL_LIMITS, sights: [] }).findings);
}
