import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import {
  type ArtSight,
  type Finding,
  openFindings,
  type ProvenCure,
  type SurveyLimits,
} from '@keen-ridge/core/survey';
import { useEffect, useMemo, useRef } from 'react';
import { create } from 'zustand';
import { whyStopped } from '../../api/client.ts';
import { useSurveyLimits } from '../../api/survey.ts';
import { useSession, useSessionState } from '../use-session.ts';
import type { FromSurveyWorker, SurveyAnswer, ToSurveyWorker } from './survey-messages.ts';
import SurveyWorker from './survey-worker.ts?worker';

interface Surveyed {
  /** What was found last, and in which scene: an old answer is never taken for a new one. */
  readonly answer: SurveyAnswer | null;
  readonly of: Scene | null;
  readonly tookMs: number;
  /** How far the survey of the newest scene is; null where it is done or has failed. */
  readonly progress: { readonly done: number; readonly total: number } | null;
  readonly fault: string | null;
  /** The plane whose own art is looked at, and what was found of arts by that answer: null for one that no frame shows. */
  readonly sightOf: PlaneId | null;
  readonly sights: ReadonlyMap<PlaneId, ArtSight | null>;
  /** The finding whose cures are wanted, by its id, and what is proven of them so far. */
  readonly curesOf: string | null;
  readonly cures: FoundCures | null;
  /** A shot that is only thought of, and what was found in the last such. */
  readonly trial: Scene | null;
  readonly tried: { readonly scene: Scene; readonly findings: readonly Finding[] | null } | null;
}

/** What cures a finding. */
interface FoundCures {
  readonly findingId: string;
  readonly cures: readonly ProvenCure[];
  /** There are no more. */
  readonly ended: boolean;
}

const NOTHING: Surveyed = {
  answer: null,
  of: null,
  tookMs: 0,
  progress: null,
  fault: null,
  sightOf: null,
  sights: new Map(),
  curesOf: null,
  cures: null,
  trial: null,
  tried: null,
};
const useSurveyed = create<Surveyed>(() => NOTHING);

/** Whether two scenes are one but for what is said about findings. */
function sameShot(p: Scene, q: Scene): boolean {
  if (p === q) return true;
  const [{ survey: _p, ...rest }, { survey: _q, ...other }] = [p, q];
  const names = Object.keys(rest) as (keyof typeof rest)[];
  return names.length === Object.keys(other).length && names.every((name) => rest[name] === other[name]);
}

/** After a failure it tries again so much later, ms. */
const RETRY_MS = 5000;

/** The first picture goes before the first survey, for so long at most, ms. */
const FIRST_MS = 2500;

/** After an edit it waits so long for the next one, ms. */
const REST_MS = 250;

/**
 * Surveys the shot that is open, all the time, in a worker of its own, and in another where that stops by itself. Once
 * for the whole page of a shot.
 */
export function useSurveyor(): void {
  const session = useSession();
  const { data: limits } = useSurveyLimits(session.shot.productionId);
  const held = useRef<{ limits: SurveyLimits | undefined; again: () => void }>({ limits, again: () => {} });
  useEffect(() => {
    held.current.limits = limits;
    held.current.again();
  }, [limits]);
  useEffect(() => {
    let worker: Worker | null = null;
    const asked = new Map<number, Scene>();
    let trial: Scene | null = null;
    let tries = 0;
    let id = 0;
    let waits = false;
    let begun = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const hear = ({ data }: MessageEvent<FromSurveyWorker>) => {
      if (data.kind === 'tried') {
        if (data.tried === tries && trial)
          useSurveyed.setState({ tried: { scene: trial, findings: data.findings } });
        return;
      }
      const of = asked.get(data.id);
      if (data.id !== id || !of) return;
      if (data.kind === 'progress') useSurveyed.setState({ progress: data });
      else if (data.kind === 'sight')
        useSurveyed.setState(({ sights }) => ({ sights: new Map(sights).set(data.planeId, data.sight) }));
      else if (data.kind === 'cures') useSurveyed.setState({ cures: data });
      else if (data.kind === 'failed') {
        useSurveyed.setState({ progress: null, fault: data.reason });
        // What could not be read now may be in a moment.
        timer ??= setTimeout(ask, RETRY_MS);
      } else
        useSurveyed.setState({
          answer: data.answer,
          of,
          tookMs: data.tookMs,
          progress: null,
          fault: null,
          sights: new Map(),
          cures: null,
        });
    };
    const start = (): Worker => {
      const started = new SurveyWorker();
      started.onmessage = hear;
      started.onerror = (event) => {
        started.terminate();
        worker = null;
        useSurveyed.setState({ progress: null, fault: whyStopped(event) });
        clearTimeout(timer);
        timer = setTimeout(ask, RETRY_MS);
      };
      if (waits) started.postMessage({ kind: 'wait', waits } satisfies ToSurveyWorker);
      return started;
    };
    const tell = (message: ToSurveyWorker) => {
      worker ??= start();
      worker.postMessage(message);
    };
    /** Asks for the sight that is looked at, once the newest survey is there. */
    let sightAsked = '';
    const askSight = ({ sightOf: planeId, answer, progress, sights }: Surveyed) => {
      const asks = `${id} ${planeId}`;
      if (!planeId || !answer || progress || sights.has(planeId) || sightAsked === asks) return;
      sightAsked = asks;
      tell({ kind: 'sight', id, planeId });
    };
    const ask = () => {
      timer = undefined;
      begun = true;
      // They come in a moment, and it is asked again then.
      const { limits: by } = held.current;
      if (!by) return;
      const { scene } = session.state;
      asked.clear();
      asked.set(++id, scene);
      // What was thought of before is not known to another worker.
      if (!worker) trial = null;
      tell({ kind: 'survey', id, scene, limits: by });
      useSurveyed.setState({ progress: { done: 0, total: scene.lengthFrames }, fault: null });
    };
    const later = () => {
      clearTimeout(timer);
      timer = setTimeout(ask, REST_MS);
    };
    const begin = () => {
      if (begun) return;
      begun = true;
      later();
    };
    const askTrial = ({ trial: scene }: Surveyed) => {
      const { limits: by } = held.current;
      if (scene === trial || !by) return;
      trial = scene;
      if (scene) tell({ kind: 'try', tried: ++tries, scene, limits: by });
    };
    let curesAsked = '';
    const askCures = ({ curesOf: findingId, answer, progress }: Surveyed) => {
      const asks = findingId ? `${id} ${findingId}` : '';
      if (asks === curesAsked || (findingId && (!answer || progress))) return;
      // Nothing is wanted any more: the same one is asked for again when it is.
      curesAsked = asks;
      if (findingId) tell({ kind: 'cures', id, findingId });
    };
    const ends = [
      useSurveyed.subscribe(askCures),
      useSurveyed.subscribe(askTrial),
      useSurveyed.subscribe(askSight),
      session.drawn.subscribe(({ whole }) => whole && begin()),
      session.store.subscribe((state, before) => {
        // What is left so changes nothing in the picture.
        if (!sameShot(state.scene, before.scene)) later();
        const now = state.playing || state.preview !== null || state.rock !== null;
        if (now === waits) return;
        waits = now;
        if (worker) tell({ kind: 'wait', waits });
      }),
    ];
    held.current.again = () => {
      if (begun) later();
    };
    timer = setTimeout(begin, FIRST_MS);
    if (session.drawn.getState().whole) begin();
    return () => {
      held.current.again = () => {};
      clearTimeout(timer);
      for (const end of ends) end();
      worker?.terminate();
      useSurveyed.setState(NOTHING);
    };
  }, [session]);
}

export interface Survey extends Pick<Surveyed, 'tookMs' | 'progress' | 'fault'> {
  readonly answer: SurveyAnswer | null;
  /** The shot has changed since. */
  readonly isOld: boolean;
  /** What is wrong and not left so. */
  readonly open: readonly Finding[];
}

/** What the survey has found in the shot. */
export function useSurvey(): Survey {
  const { answer, of, tookMs, progress, fault } = useSurveyed();
  const scene = useSessionState((state) => state.scene);
  const leftSo = scene.survey?.leftSo;
  const open = useMemo(() => openFindings(answer?.findings ?? [], leftSo), [answer, leftSo]);
  return { answer, tookMs, progress, fault, open, isOld: of === null || !sameShot(of, scene) };
}

/** What is wrong with one plane of the shot as it is now, and not left so; nothing while that is still looked for. */
export function usePlaneFindings(id: PlaneId): readonly Finding[] {
  const { open, isOld } = useSurvey();
  return useMemo(
    () => (isOld ? [] : open.filter((one) => 'planeId' in one && one.planeId === id)),
    [open, isOld, id],
  );
}

/** How a plane's own art is seen by the shot; undefined while that is not known yet. */
export function useSight(planeId: PlaneId | null): ArtSight | null | undefined {
  useEffect(() => {
    useSurveyed.setState({ sightOf: planeId });
    return () => useSurveyed.setState({ sightOf: null });
  }, [planeId]);
  return useSurveyed(({ sights }) => (planeId ? sights.get(planeId) : undefined));
}

/** What cures a finding, each proven by a survey of its own; null while nothing is known yet. */
export function useCures(findingId: string): FoundCures | null {
  useEffect(() => {
    useSurveyed.setState({ curesOf: findingId });
    return () => useSurveyed.setState({ curesOf: null, cures: null });
  }, [findingId]);
  return useSurveyed(({ cures }) => (cures?.findingId === findingId ? cures : null));
}

/** What would be wrong in a shot that is only thought of; undefined while that is looked for, null where it cannot be. */
export function useTried(scene: Scene | null): readonly Finding[] | null | undefined {
  useEffect(() => {
    useSurveyed.setState({ trial: scene });
    return () => useSurveyed.setState({ trial: null, tried: null });
  }, [scene]);
  return useSurveyed(({ tried }) => (tried?.scene === scene ? tried?.findings : undefined));
}
