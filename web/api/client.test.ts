import { afterEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { ask, mayPass, readBytes, ServerRefusal, ServerUnreachable } from './client.ts';

afterEach(() => vi.unstubAllGlobals());

/** A server that answers everything so. */
const answering = (answer: () => Response | Promise<Response>) =>
  vi.stubGlobal('fetch', async () => answer());
const problem = (status: number, code: string) =>
  answering(() =>
    Response.json({ type: 'about:blank', title: 'No', status, code, detail: 'It is gone.' }, { status }),
  );
const schema = z.object({ count: z.number() });

describe('an answer', () => {
  it.each([
    ['is no JSON', '<html>', 200],
    ['does not fit', '{"count":"many"}', 200],
    ['is empty', '', 200],
    ['is an error that is no problem of ours', '<html>', 502],
  ])('that %s is no answer, and says so', async (_, body, status) => {
    answering(() => new Response(body, { status }));
    await expect(ask(schema, '/api/x')).rejects.toBeInstanceOf(ServerUnreachable);
  });

  it('that fits is its value', async () => {
    answering(() => new Response('{"count":3}'));
    expect(await ask(schema, '/api/x')).toEqual({ count: 3 });
  });

  it.each([
    [404, 'not-found', false],
    [500, 'internal', true],
  ])('of %i refuses, in the server’s words; whether it may pass is known', async (status, code, passes) => {
    problem(status, code);
    const error = await ask(schema, '/api/x').catch((thrown: unknown) => thrown);
    expect(error).toBeInstanceOf(ServerRefusal);
    expect(error).toMatchObject({ message: 'It is gone.' });
    expect(mayPass(error)).toBe(passes);
  });
});

describe('bytes', () => {
  const broken = () =>
    new ReadableStream({
      pull: (stream) => stream.error(new TypeError('network error')),
    });

  it('that nobody sends, or that break off, are told as such and not in the browser’s words', async () => {
    answering(() => Promise.reject(new TypeError('Failed to fetch')));
    await expect(readBytes('/api/x')).rejects.toThrow('The server does not answer.');
    answering(() => new Response(broken()));
    const error = await readBytes('/api/x').catch((thrown: unknown) => thrown);
    expect(error).toMatchObject({ message: 'The server’s answer broke off.' });
    expect(mayPass(error)).toBe(true);
  });

  it('that are given up end with why', async () => {
    const abort = new AbortController();
    abort.abort(new DOMException('Given up', 'AbortError'));
    answering(() => Promise.reject(abort.signal.reason));
    await expect(readBytes('/api/x', abort.signal)).rejects.toThrow('Given up');
  });
});
