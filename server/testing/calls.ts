import { randomUUID } from 'node:crypto';
import { type Problem, problemSchema, revisionsSchema, shotSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { type Author, differenceBetween, type Op } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';

export interface Answer {
  readonly status: number;
  readonly json: unknown;
  readonly headers: Headers;
}

export const problem = (answer: Pick<Answer, 'json'>): Problem => problemSchema.parse(answer.json);

/** The edit that leads from one scene to the other. */
export const edit = (before: Scene, after: Scene): Op => ({
  kind: 'edit',
  action: 'set-length',
  subject: 'the shot',
  patch: differenceBetween(before, after),
});

export const ARTIST: Author = { id: 'artist', name: 'Artist' };

/** The revision that the shot is at after an op that was taken. */
export const revisionOf = ({ json }: Pick<Answer, 'json'>): number =>
  revisionsSchema.parse(json).revisions.at(-1)?.revision ?? Number.NaN;

/** What tests ask of a server over HTTP; `url` is asked for at every call, since it is known only once the server runs. */
export function callsOf(url: () => string) {
  const call = async (method: string, path: string, body?: unknown): Promise<Answer> => {
    const response = await fetch(url() + path, {
      method,
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
    const text = await response.text();
    return {
      status: response.status,
      json: text === '' ? null : JSON.parse(text),
      headers: response.headers,
    };
  };
  return {
    call,
    newShot: async (): Promise<string> => {
      const production = createdSchema.parse((await call('POST', '/api/productions', { name: 'P' })).json);
      const shot = { name: 'S', widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames: 10 };
      const made = await call('POST', `/api/productions/${production.id}/shots`, shot);
      return createdSchema.parse(made.json).id;
    },
    shotAt: async (id: string, author = ARTIST) =>
      shotSchema.parse((await call('GET', `/api/shots/${id}?author=${author.id}`)).json),
    send: (id: string, revision: number, op: Op, opId: string = randomUUID(), author = ARTIST) =>
      call('POST', `/api/shots/${id}/ops`, { opId, revision, author, op }),
  };
}
