import type { ShotPackage } from '@keen-ridge/core/art/package';
import { GUIDE_FORMATS, type GuideFormat, surveyLimitsSchema } from '@keen-ridge/core/contract';
import type { Scene } from '@keen-ridge/core/scene';
import {
  type AlphaMap,
  type Finding,
  openFindings,
  paintListCsv,
  SURVEY_CODES,
  type SurveyCode,
  type SurveyLimits,
  USUAL_LIMITS,
} from '@keen-ridge/core/survey';
import { findingFrames, findingSentence, findingTitle } from '@keen-ridge/core/words';
import { AlphaMaps, ArtNotSurveyed } from '../survey/alpha-maps.ts';
import { type GuideFile, guideFile } from '../survey/guide-files.ts';
import { namesIn } from '../survey/reports.ts';
import { surveyAtOnce } from '../threads/survey-worker.ts';
import { withRenderer } from './package-renderer.ts';
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

/** `gap=2,soft=1.2,cross=5,slip=8`: what counts as too much; all that is not named is as usual. */
export function readLimits(text: string | undefined): SurveyLimits {
  const named = (text ?? '').split(',').filter((part) => part.trim() !== '');
  const given = named.map((part) => {
    const [name = '', value = ''] = part.split('=').map((word) => word.trim());
    const limit = LIMIT_NAMES[name];
    if (!limit || value === '')
      throw new UsageFault(`--limits ${text}: expected ${Object.keys(LIMIT_NAMES).join('=N,')}=N`);
    return [limit, Number(value)] as const;
  });
  const limits = surveyLimitsSchema.safeParse({ ...USUAL_LIMITS, ...Object.fromEntries(given) });
  if (!limits.success) throw new UsageFault(`--limits ${text}: ${limits.error.issues[0]?.message}`);
  return limits.data;
}

const LIMIT_NAMES: Readonly<Record<string, keyof SurveyLimits>> = {
  gap: 'gapPx',
  soft: 'softness',
  cross: 'crossingSeconds',
  slip: 'slipPx',
};

/** `png`, `openraster` or `psd`. */
export function readGuideFormat(text: string): GuideFormat {
  const format = GUIDE_FORMATS.find((one) => one === text);
  if (!format) throw new UsageFault(`--guides-as ${text}: there are ${GUIDE_FORMATS.join(', ')}`);
  return format;
}

interface SurveyWishes {
  readonly json: boolean;
  readonly failOn: readonly SurveyCode[];
  readonly limits: SurveyLimits;
  /** Takes the guides of all planes that are seen, one by one. */
  readonly guides?:
    | { readonly format: GuideFormat; readonly keep: (guide: GuideFile) => Promise<void> }
    | undefined;
  /** Takes the paint list, as CSV. */
  readonly keepPaintList?: ((csv: string) => Promise<void>) | undefined;
}

/** The findings of a package, as text or as JSON. Throws OpenFindings with the same text where some that count are open. */
export async function survey(
  { scene, art }: ShotPackage,
  { json, failOn, limits, guides, keepPaintList }: SurveyWishes,
): Promise<string> {
  const maps = await mapsOf(scene, art);
  const asked = { scene, maps, limits, sights: guides ? ('all' as const) : [] };
  const { findings, needs, sights } = surveyAtOnce(asked);
  if (guides)
    await withRenderer(art, async (renderer) => {
      for (const sight of sights) await guides.keep(await guideFile(renderer, scene, sight, guides.format));
    });
  const open = new Set(openFindings(findings, scene.survey?.leftSo));
  const names = namesIn(scene);
  await keepPaintList?.(paintListCsv(needs, names.plane));
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

/** How much paint the images of a package have. */
export async function mapsOf(scene: Scene, art: ShotPackage['art']): Promise<Map<string, AlphaMap>> {
  try {
    return await new AlphaMaps(async (id) => art.get(id) ?? null).ofScene(scene);
  } catch (error) {
    if (error instanceof ArtNotSurveyed) throw new UsageFault(error.message);
    throw error;
  }
}
