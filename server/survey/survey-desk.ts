import type { GuideFormat, SurveyCounts } from '@keen-ridge/core/contract';
import { type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { isLeftSo, openFindings, type SurveyLimits } from '@keen-ridge/core/survey';
import { LRUCache } from 'lru-cache';
import { readArt } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp, type SetUp } from '../db/shots.ts';
import { readSurveyLimits } from '../db/survey-limits.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import type { FrameRenderer } from '../pictures/frame-renderer.ts';
import type { Surveyed } from '../threads/survey-task.ts';
import { SurveyThread } from '../threads/survey-thread.ts';
import { AlphaMaps, ArtNotSurveyed } from './alpha-maps.ts';
import { type GuideFile, guideFile } from './guide-files.ts';
import { leftSoLines, paintListPdf, reportPdf } from './reports.ts';

/** Shots whose counts are kept. */
const KEPT = 500;

/** Surveys of shots as they are kept: what the wall counts, and what guides and reports are drawn from. */
export class SurveyDesk {
  readonly maps: AlphaMaps;
  private readonly db: Database;
  private readonly renderer: FrameRenderer;
  private readonly thread = new SurveyThread();
  private readonly counts = new LRUCache<string, Promise<SurveyCounts>>({ max: KEPT });

  constructor(db: Database, renderer: FrameRenderer) {
    this.db = db;
    this.renderer = renderer;
    this.maps = new AlphaMaps(async (id) => (await readArt(db, id))?.png ?? null);
  }

  /** How many findings a shot has now; worked out once for a revision and its limits. */
  async countsOf(shotId: string): Promise<SurveyCounts> {
    const shot = await readSetUp(this.db, shotId);
    const limits = await readSurveyLimits(this.db, shot.productionId);
    const key = `${shotId}/${shot.revision}/${JSON.stringify(limits)}`;
    const there = this.counts.get(key);
    if (there) return there;
    const made = this.look(shot.scene, limits, []).then(({ findings }): SurveyCounts => {
      const leftSo = shot.scene.survey?.leftSo;
      const wrong = findings.filter(({ grade }) => grade === 'wrong');
      return {
        revision: shot.revision,
        open: openFindings(findings, leftSo).length,
        leftSo: wrong.filter((one) => isLeftSo(one, leftSo)).length,
        advice: findings.length - wrong.length,
      };
    });
    this.counts.set(key, made);
    made.catch(() => this.counts.delete(key));
    return made;
  }

  /** A shot as it is now and what was found in it. */
  async survey(
    shotId: string,
    sights: 'all' | readonly PlaneId[],
    signal?: AbortSignal,
  ): Promise<{ shot: SetUp; found: Surveyed }> {
    const shot = await readSetUp(this.db, shotId);
    const limits = await readSurveyLimits(this.db, shot.productionId);
    return { shot, found: await this.look(shot.scene, limits, sights, signal) };
  }

  /** The guides of some planes of a shot, made one by one as they are taken; of all that are seen for null. */
  async guides(
    shotId: string,
    asked: readonly string[] | null,
    format: GuideFormat,
    signal: AbortSignal,
  ): Promise<{ shotName: string; count: number; files: AsyncGenerator<GuideFile> }> {
    const ids = asked?.map((id) => planeIdSchema.parse(id)) ?? 'all';
    const { shot, found } = await this.survey(shotId, ids, signal);
    const { renderer } = this;
    if (found.sights.length === 0) throw notFound('A plane of these that the shot shows');
    async function* files() {
      for (const sight of found.sights) {
        signal.throwIfAborted();
        yield await renderer.withArt(shot.scene, () => guideFile(renderer, shot.scene, sight, format));
      }
    }
    return { shotName: shot.name, count: found.sights.length, files: files() };
  }

  /** What would go wrong in a shot, or what its planes need, as PDF. */
  async pdf(shotId: string, what: 'report' | 'paint-list', signal: AbortSignal) {
    const { shot, found } = await this.survey(shotId, [], signal);
    const bytes =
      what === 'report'
        ? await reportPdf(this.renderer, shot, found, signal)
        : await paintListPdf(shot, found.needs);
    return { shotName: shot.name, bytes };
  }

  /** A line for each finding that the artist has left so, with what was said of it; none is looked for where nothing was. */
  async leftSoLines(shotId: string, signal?: AbortSignal): Promise<string[]> {
    const { scene } = await readSetUp(this.db, shotId);
    if (Object.keys(scene.survey?.leftSo ?? {}).length === 0) return [];
    const { shot, found } = await this.survey(shotId, [], signal);
    return leftSoLines(shot.scene, found.findings);
  }

  private async look(
    scene: Scene,
    limits: SurveyLimits,
    sights: 'all' | readonly PlaneId[],
    signal?: AbortSignal,
  ): Promise<Surveyed> {
    try {
      const maps = await this.maps.ofScene(scene);
      return await this.thread.run({ scene, maps, limits, sights }, signal);
    } catch (error) {
      if (error instanceof ArtNotSurveyed) throw new ProblemError('unreadable-art', error.message);
      throw error;
    }
  }

  close(): Promise<void> {
    return this.thread.close();
  }
}
