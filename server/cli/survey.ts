import type { ShotPackage } from '@keen-ridge/core/art/package';
import { planeOf } from '@keen-ridge/core/scene/records';
import {
  type AlphaMap,
  alphaMapOf,
  type Finding,
  findingsOf,
  finestAlphaOf,
  openFindings,
  paintList,
  paintListCsv,
  SURVEY_CODES,
  type SurveyCode,
  surveyRows,
} from '@keen-ridge/core/survey';
import { findingFrames, findingSentence, findingTitle } from '@keen-ridge/core/words';
import { decodeStored } from '../art/decode.ts';
import { UsageFault } from './usage-fault.ts';

/** Some findings are open: the text says which, and the exit status is 3. */
export class OpenFindings extends Error {}

/** `edge,hole`: the kinds of findings that count; all without it. */
export function readCodes(text: string | undefined): readonly SurveyCode[] {
  if (text === undefined) return SURVEY_CODES;
  return text.split(',').map((word) => {
    const code = SURVEY_CODES.find((one) => one === word.trim());
    if (!code) throw new UsageFault(`--fail-on ${text}: expected some of ${SURVEY_CODES.join(',')}`);
    return code;
  });
}

/** How much paint every image of a package has. */
async function alphaMaps(art: ShotPackage['art']): Promise<Map<string, AlphaMap>> {
  const maps = new Map<string, AlphaMap>();
  for (const [id, png] of art) {
    const image = await decodeStored(png);
    if (!image.ok) throw new UsageFault(`art/${id}.png: ${image.error.detail}`);
    const { widthPx, heightPx, data } = image.value;
    maps.set(id, alphaMapOf(widthPx, heightPx, finestAlphaOf(data, widthPx, heightPx)));
  }
  return maps;
}

interface SurveyWishes {
  readonly json: boolean;
  readonly failOn: readonly SurveyCode[];
  /** Takes the paint list, as CSV. */
  readonly keepPaintList?: ((csv: string) => Promise<void>) | undefined;
}

/** The findings of a package, as text or as JSON. Throws OpenFindings with the same text where some that count are open. */
export async function survey(
  { scene, art }: ShotPackage,
  { json, failOn, keepPaintList }: SurveyWishes,
): Promise<string> {
  const maps = await alphaMaps(art);
  const rows = surveyRows(scene, (id) => maps.get(id) ?? null);
  const findings = findingsOf(rows);
  const open = new Set(openFindings(findings, scene.survey?.leftSo));
  const names = {
    plane: (id: string) => planeOf(scene, id)?.name ?? id,
    channel: (id: string) => id,
  };
  await keepPaintList?.(paintListCsv(paintList(rows, findings), names.plane));
  const state = (finding: Finding) =>
    open.has(finding) ? 'open' : finding.grade === 'advice' ? 'advice' : 'left so';
  const text = json
    ? JSON.stringify(
        findings.map((finding) => ({ ...finding, state: state(finding) })),
        null,
        2,
      )
    : findings.length === 0
      ? `Nothing would go wrong in ${scene.lengthFrames} frames.`
      : findings
          .map(
            (finding) =>
              `${state(finding).padEnd(8)}${findingTitle(finding, names)} (${findingFrames(finding)}). ${findingSentence(finding)}`,
          )
          .join('\n');
  if ([...open].some(({ code }) => failOn.includes(code))) throw new OpenFindings(text);
  return text;
}
