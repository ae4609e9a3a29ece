import { randomUUID } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { personOf } from '../../access/asking.ts';
import { patternOf } from '../../access/gate.ts';
import { log, requestAtHand } from '../../faults/log.ts';

/** What another server may name a request by; anything else is named anew. */
const REQUEST_ID = /^[\w-]{8,64}$/;

/** What a server measures of itself, as OpenMetrics text. */
export interface Metrics {
  text(): Promise<string>;
  readonly contentType: string;
  readonly observe: (request: Request, response: Response, next: NextFunction) => void;
}

export function metricsOf(): Metrics {
  const registry = new Registry<typeof Registry.OPENMETRICS_CONTENT_TYPE>();
  registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
  collectDefaultMetrics({ register: registry, prefix: 'keen_ridge_' });
  const seconds = new Histogram({
    name: 'keen_ridge_request_seconds',
    help: 'Time from a request to the end of its answer, streams left out',
    labelNames: ['method', 'path', 'status'],
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30],
    registers: [registry],
  });
  const open = new Gauge({
    name: 'keen_ridge_streams_open',
    help: 'Streams of server-sent events that are heard',
    registers: [registry],
  });
  /** Gives a request its name, says how it ended, and measures it. */
  const observe = (request: Request, response: Response, next: NextFunction): void => {
    const said = request.get('X-Request-Id');
    const id = said !== undefined && REQUEST_ID.test(said) ? said : randomUUID();
    response.set('X-Request-Id', id);
    const began = performance.now();
    const isStream = request.path.endsWith('/events');
    if (isStream) open.inc();
    response.on('close', () => {
      const took = (performance.now() - began) / 1000;
      if (isStream) open.dec();
      else
        seconds.observe(
          { method: request.method, path: patternOf(request) ?? 'other', status: response.statusCode },
          took,
        );
      log.info(
        {
          request: id,
          method: request.method,
          path: request.path,
          status: response.statusCode,
          whole: response.writableFinished,
          ms: Math.round(took * 1000),
          person: personOf(response)?.id,
        },
        'answered',
      );
    });
    requestAtHand.run({ id }, next);
  };
  return { text: () => registry.metrics(), contentType: registry.contentType, observe };
}
