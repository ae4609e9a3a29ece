import type { ArtRef, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import {
  type AlphaMap,
  alphaMapOf,
  bareBoxes,
  type Finding,
  findingsOf,
  type ProvenCure,
  paintList,
  provenCures,
  type SurveyLimits,
  type SurveyRows,
  SurveyRun,
  sightSteps,
} from '@keen-ridge/core/survey';
import { reasonOf } from '@keen-ridge/core/units';
import { readBytes } from '../../api/client.ts';
import type { FromSurveyWorker, SurveyAnswer, ToSurveyWorker } from './survey-messages.ts';

/** How long it works before it listens again, ms. */
const TURN_MS = 12;
const PAUSE_MS = 120;
const HEADER_BYTES = 8;

/** How much paint arts have; asked for once, since an art never changes. */
const maps = new Map<string, Promise<AlphaMap>>();
/** The last survey that was ended: what sights are drawn from. */
let last: {
  readonly id: number;
  readonly run: SurveyRun;
  readonly findings: readonly Finding[];
  readonly known: ReadonlyMap<string, AlphaMap>;
  readonly limits: SurveyLimits;
} | null = null;
let newestTry = 0;
/** The finding whose cures are asked for. */
let cured = '';
let newest = 0;
let waits = false;

async function fetchMap({ id, widthPx, heightPx }: ArtRef): Promise<AlphaMap> {
  const bytes = await readBytes(`/api/art/${id}/alpha`);
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

/** How much paint all arts of a scene have; null where it is not wanted any more. */
async function mapsOf(scene: Scene, isOver: () => boolean): Promise<Map<string, AlphaMap> | null> {
  const arts = planesOf(scene)
    .filter((plane) => !plane.hidden)
    .flatMap(({ content }) => shownArts(content));
  const known = new Map<string, AlphaMap>();
  for (const art of new Map(arts.map((one) => [one.id, one])).values()) {
    known.set(art.id, await mapOf(art));
    if (isOver()) return null;
  }
  return known;
}

async function survey({ id, scene, limits }: Extract<ToSurveyWorker, { kind: 'survey' }>): Promise<void> {
  const began = performance.now();
  const known = await mapsOf(scene, () => id !== newest);
  if (!known) return;
  const run = new SurveyRun(scene, (artId) => known.get(artId) ?? null, last?.run);
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
  const answer = answerOf(rows, limits);
  last = { id, run, findings: answer.findings, known, limits };
  say({ kind: 'answer', id, answer, tookMs: performance.now() - began });
}

/** Looks at a plane's own art, as the survey that was ended last found it; given up where the shot has changed. */
async function sight({ id, planeId }: Extract<ToSurveyWorker, { kind: 'sight' }>): Promise<void> {
  if (last?.id !== id) return;
  const { run, findings, known } = last;
  const steps = sightSteps(run.rows, findings, (artId) => known.get(artId) ?? null, planeId);
  let since = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) {
      say({ kind: 'sight', id, planeId, sight: step.value });
      return;
    }
    if (performance.now() - since < TURN_MS) continue;
    do await turn(waits ? PAUSE_MS : 0);
    while (waits && id === newest);
    if (id !== newest) return;
    since = performance.now();
  }
}

/** Proves the cures of a finding one by one, until another is asked for or the shot has changed. */
async function cures({ id, findingId }: Extract<ToSurveyWorker, { kind: 'cures' }>): Promise<void> {
  cured = findingId;
  if (last?.id !== id) return;
  const { run, findings, known, limits } = last;
  const finding = findings.find((one) => one.id === findingId);
  if (!finding) return;
  const proven: ProvenCure[] = [];
  let since = performance.now();
  for (const cure of provenCures(run, findings, finding, (artId) => known.get(artId) ?? null, limits)) {
    if (cure) {
      proven.push(cure);
      say({ kind: 'cures', id, findingId, cures: proven, ended: false });
    }
    if (performance.now() - since < TURN_MS) continue;
    // A cure that is tried in the picture must not hold up the proof of the others.
    await turn(0);
    if (id !== newest || cured !== findingId) return;
    since = performance.now();
  }
  say({ kind: 'cures', id, findingId, cures: proven, ended: true });
}

/** Surveys a scene that is only thought of, until another one is. */
async function attempt({ tried, scene, limits }: Extract<ToSurveyWorker, { kind: 'try' }>): Promise<void> {
  newestTry = tried;
  const isOver = () => tried !== newestTry;
  try {
    const known = await mapsOf(scene, isOver);
    if (!known) return;
    const run = new SurveyRun(scene, (artId) => known.get(artId) ?? null, last?.run);
    let since = performance.now();
    while (run.step()) {
      if (performance.now() - since < TURN_MS) continue;
      await turn(0);
      if (isOver()) return;
      since = performance.now();
    }
    say({ kind: 'tried', tried, findings: findingsOf(run.rows, limits) });
  } catch (error) {
    console.warn('A trial could not be surveyed', error);
    say({ kind: 'tried', tried, findings: null });
  }
}

function answerOf(rows: SurveyRows, limits: Parameters<typeof findingsOf>[1]): SurveyAnswer {
  const ribbons = [...rows.planes.values()].map(({ planeId, inside, looksTo, seenPx }) => ({
    planeId,
    inside,
    looksTo,
    seenPx,
  }));
  const findings = findingsOf(rows, limits);
  return { findings, ribbons, needs: paintList(rows, findings), bare: bareBoxes(rows) };
}

self.onmessage = ({ data }: MessageEvent<ToSurveyWorker>) => {
  if (data.kind === 'wait') {
    waits = data.waits;
    return;
  }
  if (data.kind === 'try') {
    void attempt(data);
    return;
  }
  if (data.kind === 'survey') newest = data.id;
  const work = data.kind === 'survey' ? survey(data) : data.kind === 'sight' ? sight(data) : cures(data);
  work.catch((error: unknown) => say({ kind: 'failed', id: data.id, reason: reasonOf(error) }));
};
