import { fileURLToPath } from 'node:url';
import express, { type Express } from 'express';
import { gate } from './access/gate.ts';
import { answers } from './db/connection/database-gone.ts';
import type { Database } from './db/connection/queryable.ts';
import type { RevisionListener } from './db/connection/revision-listener.ts';
import { notFound } from './faults/problems.ts';
import type { HandoffDesk } from './handoff/handoff-desk.ts';
import type { ArtDesk } from './imports/art-desk.ts';
import type { WatchedFolder } from './imports/watched-folder.ts';
import type { Presence } from './people/presence.ts';
import type { FrameRenderer } from './pictures/frame-renderer.ts';
import type { Posters } from './pictures/posters.ts';
import { artRoutes } from './routes/art-routes.ts';
import { exportRoutes } from './routes/export-routes.ts';
import { handoffRoutes } from './routes/handoff-routes.ts';
import { answerProblem } from './routes/http/answer-problem.ts';
import { assets } from './routes/http/assets.ts';
import { showsToken } from './routes/http/bearer.ts';
import { onlyStorable, readJson } from './routes/http/body.ts';
import { isolate, onlyOwnNames } from './routes/http/guard.ts';
import { metricsOf } from './routes/http/observe.ts';
import { page } from './routes/http/page.ts';
import { cutStalled } from './routes/http/stalled.ts';
import { manyRoutes } from './routes/many-routes.ts';
import { packageRoutes } from './routes/package-routes.ts';
import { peopleRoutes } from './routes/people-routes.ts';
import { setRoutes } from './routes/set-routes.ts';
import { shelfRoutes } from './routes/shelf-routes.ts';
import { shotRoutes } from './routes/shot-routes.ts';
import { soundRoutes } from './routes/sound-routes.ts';
import { surveyRoutes } from './routes/survey-routes.ts';
import { takeRoutes } from './routes/take-routes.ts';
import { wallRoutes } from './routes/wall-routes.ts';
import type { Settings } from './settings/settings.ts';
import type { SurveyDesk } from './survey/survey-desk.ts';

export interface AppParts {
  readonly db: Database;
  readonly listener: RevisionListener;
  readonly presence: Presence;
  readonly posters: Posters;
  readonly renderer: FrameRenderer;
  readonly handoffs: HandoffDesk;
  readonly desk: ArtDesk;
  readonly survey: SurveyDesk;
  /** Where paintings are saved on this machine; null where no folder was named. */
  readonly watched: WatchedFolder | null;
  /** Names this run of the server: a client that sees another knows that it was restarted. */
  readonly instance: string;
  /** How long a body may say nothing; as usual where it is left out. */
  readonly stalledMs?: number | undefined;
  readonly settings: Pick<Settings, 'names' | 'signIn' | 'proxy' | 'metricsToken'>;
}

const WEB = fileURLToPath(new URL('../web/dist', import.meta.url));

/** Addresses whose body is a file, whatever it says of itself. */
const isFile = (path: string): boolean =>
  path === '/art' ||
  path === '/art/pixels' ||
  path === '/archives' ||
  path === '/sounds' ||
  /^\/productions\/[^/]+\/packages$/.test(path);

/** The application without a port: main.ts wires and listens, tests ask it directly. */
export function buildApp({
  db,
  listener,
  presence,
  posters,
  renderer,
  handoffs,
  desk,
  survey,
  watched,
  instance,
  stalledMs,
  settings,
}: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', false);
  // Of a proxy's word only that of one on this machine counts.
  app.set('trust proxy', settings.proxy ? 'loopback' : false);
  const metrics = metricsOf();
  app.use(metrics.observe, isolate, onlyOwnNames(settings.names));
  app.get('/metrics', async (request, response) => {
    if (settings.signIn && !showsToken(request.get('Authorization'), settings.metricsToken))
      throw notFound('The address GET /metrics');
    response.type(metrics.contentType).send(await metrics.text());
  });
  const api = express.Router();
  const json = readJson();
  const { byAddress, byBody } = gate(db, settings.signIn);
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  api.use(cutStalled(stalledMs));
  api.use(byAddress);
  api.get('/health', async (_request, response) => {
    response.json({ instance, database: (await answers(db)) ? 'up' : 'away' });
  });
  /** For who balances load: whether work can be done here. */
  api.get('/ready', async (_request, response) => {
    const ready = await answers(db);
    response.status(ready ? 200 : 503).json({ ready });
  });
  api.use((request, response, next) => {
    if (isFile(request.path)) next();
    else json(request, response, next);
  });
  api.use(onlyStorable);
  api.use(byBody);
  api.use(
    peopleRoutes(db, settings.signIn),
    wallRoutes(db, posters),
    shotRoutes(db, listener, presence),
    shelfRoutes(db),
    setRoutes(db, survey),
    manyRoutes(db, watched),
    soundRoutes(db, desk),
    takeRoutes(db),
    artRoutes(db, posters, desk, survey.maps),
    surveyRoutes(db, survey),
    handoffRoutes(db, handoffs, renderer),
    exportRoutes(db, renderer, survey, posters),
    packageRoutes(db, desk),
  );
  api.use((request) => {
    throw notFound(`The address ${request.method} ${request.originalUrl}`);
  });
  app.use('/api', api);
  app.use('/assets', assets(`${WEB}/assets`));
  app.use(express.static(WEB, { maxAge: 0, index: false }));
  app.get('/shots/{*any}', page(`${WEB}/shot.html`));
  app.get('/{*any}', page(`${WEB}/index.html`));
  app.use(answerProblem);
  return app;
}
