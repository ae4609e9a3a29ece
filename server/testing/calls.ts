import { randomUUID } from 'node:crypto';
import { createdSchema, type Op, type Problem, problemSchema, shotSchema } from '@keen-ridge/core/contract';
import { changeBetween, type Scene } from '@keen-ridge/core/document';

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
  patch: changeBetween(before, after)?.patch ?? [],
});

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
    shotAt: async (id: string) => shotSchema.parse((await call('GET', `/api/shots/${id}`)).json),
    send: (id: string, revision: number, op: Op, opId: string = randomUUID()) =>
      call('POST', `/api/shots/${id}/ops`, { opId, revision, op }),
  };
}
