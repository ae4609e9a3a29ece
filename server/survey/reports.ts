import type { Point } from '@keen-ridge/core/geometry';
import { SIDES } from '@keen-ridge/core/image';
import { BLACK } from '@keen-ridge/core/picture';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type Finding, faultOn, guideCanvas, isLeftSo, type PaintNeed } from '@keen-ridge/core/survey';
import {
  findingFrames,
  findingSentence,
  findingTitle,
  type Names,
  needWords,
  PAINT_LIST_WORDS,
} from '@keen-ridge/core/words';
import sharp from 'sharp';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import type { Surveyed } from '../threads/survey-task.ts';
import { addEntry, addTable, newPdf, pdfBytes } from './pdf.ts';

/** Width of a report's pictures, px. */
const PICTURE_PX = 640;

export const namesIn = (scene: Scene): Names => ({
  plane: (id) => planeOf(scene, id)?.name ?? id,
  channel: (id) => id,
});

const head = (scene: Scene, what: string): string =>
  `${what}, ${scene.lengthFrames} frames of ${scene.frame.widthPx} × ${scene.frame.heightPx} px`;

/** A line for each of the findings that is left so, with what was said of it. */
export const leftSoLines = (scene: Scene, findings: readonly Finding[]): string[] =>
  findings.flatMap((finding) => {
    if (!isLeftSo(finding, scene.survey?.leftSo)) return [];
    const note = scene.survey?.leftSo[finding.id]?.note;
    const title = `${findingTitle(finding, namesIn(scene))}, frames ${findingFrames(finding)}`;
    return [note ? `${title}: “${note}”` : title];
  });

/** What would go wrong, each with the picture of its worst frame and the fault hatched in it, as PDF. */
export async function reportPdf(
  renderer: FrameRenderer,
  shot: { readonly name: string; readonly scene: Scene },
  { findings, bare }: Pick<Surveyed, 'findings' | 'bare'>,
  signal?: AbortSignal,
): Promise<Uint8Array> {
  const { scene, name } = shot;
  const names = namesIn(scene);
  const leftSo = scene.survey?.leftSo;
  const pdf = await newPdf(name, head(scene, 'What would go wrong'), 'portrait');
  if (findings.length === 0) pdf.text('Nothing would go wrong.');
  for (const finding of findings) {
    signal?.throwIfAborted();
    const left = isLeftSo(finding, leftSo);
    const note = leftSo?.[finding.id]?.note;
    addEntry(pdf, await pictureOf(renderer, scene, finding, bare), {
      title: findingTitle(finding, names),
      lines: [
        `Frames ${findingFrames(finding)}`,
        findingSentence(finding),
        ...(left ? [`Left so${note ? `: “${note}”` : '.'}`] : finding.grade === 'advice' ? ['Advice.'] : []),
      ],
    });
  }
  return pdfBytes(pdf);
}

/** The worst frame, small, with the fault over it. */
async function pictureOf(
  renderer: FrameRenderer,
  scene: Scene,
  finding: Finding,
  bare: Surveyed['bare'],
): Promise<Buffer> {
  const scale = Math.min(1, PICTURE_PX / scene.frame.widthPx);
  const {
    data,
    widthPx: width,
    heightPx: height,
  } = await renderer.withArt(scene, () =>
    renderer.render(scene, finding.worstFrame, BLACK, scale, renderer.threads),
  );
  const points = (polygon: readonly Point[]) =>
    polygon.map(({ x, y }) => `${x * scale},${y * scale}`).join(' ');
  const faults = faultOn(scene, finding.worstFrame, finding, bare)
    .map((polygon) => `<polygon points="${points(polygon)}" fill="url(#h)"/>`)
    .join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><defs><pattern id="h" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="8" height="8" fill="#fff" fill-opacity="0.3"/><rect width="4" height="8" fill="#b3261e"/></pattern></defs>${faults}</svg>`;
  return sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .composite([{ input: Buffer.from(svg) }])
    .jpeg({ quality: 88 })
    .toBuffer();
}

/** The paint list as PDF. */
export async function paintListPdf(
  { name, scene }: { readonly name: string; readonly scene: Scene },
  needs: readonly PaintNeed[],
): Promise<Uint8Array> {
  const names = namesIn(scene);
  const pdf = await newPdf(name, head(scene, 'Paint list'), 'landscape');
  const right = { align: 'right' } as const;
  const columns = [
    { words: PAINT_LIST_WORDS.plane, share: 4 },
    { words: PAINT_LIST_WORDS.is, share: 3 },
    { words: PAINT_LIST_WORDS.paint, share: 3.4 },
    ...SIDES.map((side) => ({ words: PAINT_LIST_WORDS.sides[side], share: 2, ...right })),
  ];
  const rows = needs.map((need) => {
    const words = needWords(need, guideCanvas(need));
    return [names.plane(need.planeId), words.is, words.paint, ...SIDES.map((side) => words.sides[side])];
  });
  addTable(pdf, columns, rows);
  return pdfBytes(pdf);
}
