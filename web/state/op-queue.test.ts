import type { OpRequest } from '@keen-ridge/core/contract';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { OpQueue, type SaveState, sendLeftOver } from './op-queue.ts';

const SHOT = '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a11';
let stored: Map<string, string>;
let states: SaveState[];

beforeEach(() => {
  vi.useFakeTimers();
  stored = new Map();
  states = [];
  vi.stubGlobal('window', { addEventListener: () => {}, removeEventListener: () => {} });
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
    removeItem: (key: string) => void stored.delete(key),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A server in one function: keeps a revision, refuses stale ops, does an op once. */
function serverAt(revision: number) {
  const server = {
    revision,
    down: false,
    loseAnswers: false,
    /** What every op is answered with instead of being done. */
    refusing: null as null | { status: number; code: string; detail: string },
    asked: 0,
    seen: new Map<string, number>(),
  };
  vi.stubGlobal('fetch', async (_path: string, init: { body: string }) => {
    server.asked += 1;
    if (server.down) throw new TypeError('Failed to fetch');
    if (server.refusing) {
      const body = JSON.stringify({ type: 'x', title: 'x', ...server.refusing });
      return new Response(body, { status: server.refusing.status });
    }
    const request = JSON.parse(init.body) as OpRequest;
    const before = server.seen.get(request.opId);
    if (before === undefined && request.revision !== server.revision) {
      const problem = {
        type: 'x',
        title: 'x',
        status: 409,
        detail: 'stale',
        code: 'stale-revision',
        revision: server.revision,
      };
      return new Response(JSON.stringify(problem), { status: 409 });
    }
    if (before === undefined) {
      server.revision += 1;
      server.seen.set(request.opId, server.revision);
    }
    if (server.loseAnswers) throw new TypeError('Failed to fetch');
    return new Response(JSON.stringify({ revision: server.seen.get(request.opId) }), { status: 200 });
  });
  return server;
}
const queueAt = (revision: number) => new OpQueue(SHOT, revision, (state) => states.push(state));
const settle = () => vi.advanceTimersByTimeAsync(1);

describe('the queue of edits', () => {
  it('sends in order, each on the revision that the one before made', async () => {
    const server = serverAt(3);
    const queue = queueAt(3);
    queue.push({ kind: 'undo' });
    queue.push({ kind: 'redo' });
    queue.push({ kind: 'undo' });
    await settle();
    expect([server.revision, queue.knownRevision, queue.pending]).toEqual([6, 6, 0]);
    expect(states.at(-1)).toBe('saved');
    expect(stored.size).toBe(0);
  });

  it('keeps edits while the server is down and sends them when it is back', async () => {
    const server = serverAt(1);
    server.down = true;
    const queue = queueAt(1);
    queue.push({ kind: 'undo' });
    await settle();
    queue.push({ kind: 'redo' });
    await settle();
    expect(states.at(-1)).toBe('offline');
    expect(JSON.parse([...stored.values()][0] ?? '[]')).toHaveLength(2);
    server.down = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([server.revision, states.at(-1), stored.size]).toEqual([3, 'saved', 0]);
  });

  it('does nothing twice when only the answer was lost', async () => {
    const server = serverAt(1);
    server.loseAnswers = true;
    const queue = queueAt(1);
    queue.push({ kind: 'undo' });
    await settle();
    expect([server.revision, states.at(-1)]).toEqual([2, 'offline']);
    server.loseAnswers = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([server.revision, queue.knownRevision, states.at(-1)]).toEqual([2, 2, 'saved']);
  });

  it('ends when another window has moved the shot on', async () => {
    serverAt(9);
    const queue = queueAt(4);
    queue.push({ kind: 'undo' });
    await settle();
    expect(states.at(-1)).toBe('stale');
    queue.push({ kind: 'redo' });
    await settle();
    expect([queue.pending, stored.size]).toEqual([0, 0]);
  });
});

const UNSTORABLE = { status: 422, code: 'unstorable-text', detail: 'planes.0.name holds half a character' };
const INTERNAL = { status: 500, code: 'internal', detail: 'an unexpected fault' };
const AWAY = { status: 503, code: 'unavailable', detail: 'no database' };
const FULL = { status: 503, code: 'disk-full', detail: 'The disk is full' };

describe('an edit that the server does not take', () => {
  it('is dropped at once where it never will be, with what the server said', async () => {
    const server = serverAt(1);
    server.refusing = UNSTORABLE;
    const said: (string | null)[] = [];
    const queue = new OpQueue(SHOT, 1, (state, why) => said.push(state, why));
    queue.push({ kind: 'undo' });
    await settle();
    expect(said.slice(-2)).toEqual(['refused', UNSTORABLE.detail]);
    expect([queue.pending, stored.size, server.asked]).toEqual([0, 0, 1]);
  });

  it('is tried again on a fault of the server’s own, but not for good', async () => {
    const server = serverAt(1);
    server.refusing = INTERNAL;
    const queue = queueAt(1);
    queue.push({ kind: 'undo' });
    await vi.advanceTimersByTimeAsync(3000);
    expect([states.at(-1), queue.pending]).toEqual(['offline', 1]);
    await vi.advanceTimersByTimeAsync(60_000);
    expect([states.at(-1), queue.pending, stored.size, server.asked]).toEqual(['refused', 0, 0, 5]);
  });

  it('is kept as long as a database is away or a disk is full, and sent when it is not', async () => {
    const server = serverAt(1);
    server.refusing = AWAY;
    const queue = queueAt(1);
    queue.push({ kind: 'undo' });
    await vi.advanceTimersByTimeAsync(120_000);
    expect([states.at(-1), queue.pending]).toEqual(['offline', 1]);
    server.refusing = FULL;
    await vi.advanceTimersByTimeAsync(3000);
    expect(queue.pending).toBe(1);
    server.refusing = null;
    await vi.advanceTimersByTimeAsync(3000);
    expect([states.at(-1), server.revision, stored.size]).toEqual(['saved', 2, 0]);
  });
});

describe('what a closed tab left', () => {
  const leave = async (server: ReturnType<typeof serverAt>) => {
    server.down = true;
    const queue = queueAt(server.revision);
    queue.push({ kind: 'undo' });
    queue.push({ kind: 'redo' });
    await settle();
    queue.close();
    server.down = false;
  };

  it('is sent before the shot is opened again', async () => {
    const server = serverAt(5);
    await leave(server);
    expect(await sendLeftOver(SHOT)).toEqual({ count: 0, why: null });
    expect([server.revision, stored.size]).toEqual([7, 0]);
  });

  it('is dropped, and counted, where it no longer fits', async () => {
    const server = serverAt(5);
    await leave(server);
    server.revision = 8;
    expect(await sendLeftOver(SHOT)).toEqual({ count: 2, why: null });
    expect([server.revision, stored.size]).toEqual([8, 0]);
  });

  it('is dropped, with the reason, where the server refuses it: the shot opens', async () => {
    const server = serverAt(5);
    await leave(server);
    server.refusing = UNSTORABLE;
    expect(await sendLeftOver(SHOT)).toEqual({ count: 2, why: UNSTORABLE.detail });
    expect(stored.size).toBe(0);
  });

  it('is kept while the server is down', async () => {
    const server = serverAt(5);
    await leave(server);
    server.down = true;
    await expect(sendLeftOver(SHOT)).rejects.toThrow('does not answer');
    expect(stored.size).toBe(1);
  });
});
