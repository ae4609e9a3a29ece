import { Readable } from 'node:stream';
import type { ExportKind, ExportQuery } from '@keen-ridge/core/contract/exports';
import { fileStem, MOST_POSES, samplesFault } from '@keen-ridge/core/export';
import { writeGltf } from '@keen-ridge/core/export/gltf';
import { sheetPages, sheetSvg } from '@keen-ridge/core/export/sheet';
import { type StageChoice, stageCsv, stageJson } from '@keen-ridge/core/export/stage-data';
import { type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { Standing } from '@keen-ridge/core/stage';
import { standingsAt } from '@keen-ridge/core/staging';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import { paintingOf } from './painting.ts';
import { planePictures } from './plane-pictures.ts';
import { sheetPdf } from './sheet-pdf.ts';
import { stillSet } from './still-set.ts';

export interface ShotToExport {
  readonly name: string;
  readonly scene: Scene;
}

/** What only some kinds need. */
export interface ExportParts {
  readonly renderer: () => FrameRenderer;
  /** A line for each finding that is left so. */
  readonly leftSo: () => Promise<readonly string[]>;
}

/** More than can be made at once; the message says why, and what to do. */
export class ExportTooLarge extends Error {
  override readonly name = 'ExportTooLarge';
}

export interface ShotExport {
  readonly fileName: string;
  readonly type: string;
  readonly content: Readable;
}

const ENDINGS: Readonly<Record<ExportKind, { readonly ending: string; readonly type: string }>> = {
  csv: { ending: '_stage-data.csv', type: 'text/csv; charset=utf-8' },
  json: { ending: '_stage-data.json', type: 'application/json' },
  glb: { ending: '.glb', type: 'model/gltf-binary' },
  'sheet-pdf': { ending: '_camera-sheet.pdf', type: 'application/pdf' },
  'sheet-svg': { ending: '_camera-sheet.svg', type: 'image/svg+xml' },
  stills: { ending: '_still-set.zip', type: 'application/zip' },
};

/** What leaves a shot at once: the same bytes by the server and by the command line. */
export async function shotExport(
  { scene, name }: ShotToExport,
  asked: ExportQuery,
  parts: ExportParts,
  signal?: AbortSignal,
): Promise<ShotExport> {
  const tooMuch = samplesFault(scene, asked.as === 'glb' ? MOST_POSES : undefined);
  if (tooMuch) throw new ExportTooLarge(tooMuch);
  const { ending, type } = ENDINGS[asked.as];
  const of = asked.of === 'all' ? '' : `_${asked.of}`;
  const fileName = `${fileStem(name)}${of}${ending}`;
  return { fileName, type, content: await contentOf({ scene, name }, asked, parts, signal) };
}

async function contentOf(
  { scene, name }: ShotToExport,
  asked: ExportQuery,
  parts: ExportParts,
  signal: AbortSignal | undefined,
): Promise<Readable> {
  switch (asked.as) {
    case 'csv':
      return Readable.from(stageCsv(scene, choiceOf(scene, asked)));
    case 'json':
      return Readable.from(stageJson(scene, name, choiceOf(scene, asked)));
    case 'glb': {
      const pngs = await planePictures(parts.renderer(), scene, asked.art, signal);
      return whole(await writeGltf(scene, name, pngs));
    }
    case 'stills':
      return stillSet(parts.renderer(), scene, choiceOf(scene, asked).planes, signal);
    case 'sheet-pdf':
    case 'sheet-svg': {
      const pages = sheetPages(scene, { shotName: name, paper: asked.paper, leftSo: await parts.leftSo() });
      const painting = await paintingOf(parts.renderer(), scene, signal);
      const isPdf = asked.as === 'sheet-pdf';
      return whole(
        isPdf ? await sheetPdf(pages, painting, name) : Buffer.from(sheetSvg(pages, painting, base64)),
      );
    }
  }
}

const base64 = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64');
const whole = (bytes: Uint8Array): Readable => Readable.from([Buffer.from(bytes)]);

function choiceOf(scene: Scene, { of, planes }: ExportQuery): StageChoice {
  switch (of) {
    case 'all':
      return { camera: true, planes: null };
    case 'camera':
      return { camera: true, planes: [] };
    case 'datum':
      return { camera: false, planes: onDatum(scene) };
    case 'planes':
      return { camera: false, planes: planes.map((id) => planeIdSchema.parse(id)) };
  }
}

const isOnDatum = (standing: Standing | undefined): boolean =>
  standing?.root === 'stage' && standing.depthSpx === 0;

/** What stands where characters act, as it does on the first frame. */
const onDatum = (scene: Scene): PlaneId[] => {
  const standings = standingsAt(scene, 1);
  return planesOf(scene)
    .filter(({ id, hidden }) => !hidden && isOnDatum(standings.get(id)))
    .map(({ id }) => id);
};
