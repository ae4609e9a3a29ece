import { type Op, type OpRequest, opRequestSchema, revisionSchema } from '@keen-ridge/core/contract';
import { z } from 'zod';
import { ask, ServerRefusal, ServerUnreachable } from '../api/client.ts';

/** Times that an edit is sent again on which the server met a fault of its own, such as a full disk, before it counts as refused. */
const MOST_FAULTS = 4;

/**
 * `stale`: another window has changed the shot; ours no longer fits. `refused`: the server did not accept an edit.
 * Both end the queue: the shot must be loaded again.
 */
export const SAVE_STATES = ['saved', 'saving', 'offline', 'stale', 'refused'] as const;
export type SaveState = (typeof SAVE_STATES)[number];

const RETRY_MS = 1200;
const pendingKey = (shotId: string) => `keen-ridge/pending/${shotId}`;
const pendingSchema = z.array(opRequestSchema);

/**
 * Sends ops one by one, in order, each against the revision that the one before it made. What is not yet acknowledged
 * also lies in the browser's storage, so that a closed tab loses nothing.
 */
export class OpQueue {
  private readonly shotId: string;
  private readonly onState: (state: SaveState, why: string | null) => void;
  private ops: OpRequest[] = [];
  private revision: number;
  private sending = false;
  private ended = false;
  private retry: ReturnType<typeof setTimeout> | undefined;
  /** Faults that the server met on the edit that is next, one after another. */
  private faults = 0;

  constructor(shotId: string, revision: number, onState: (state: SaveState, why: string | null) => void) {
    this.shotId = shotId;
    this.revision = revision;
    this.onState = onState;
    window.addEventListener('online', this.flush);
  }

  get pending(): number {
    return this.ops.length;
  }

  /** The revision that the server stands at as far as we know. */
  get knownRevision(): number {
    return this.revision;
  }

  push(op: Op): void {
    if (this.ended) return;
    this.ops.push({ opId: crypto.randomUUID(), revision: this.revision + this.ops.length, op });
    this.keep();
    this.flush();
  }

  readonly flush = (): void => {
    clearTimeout(this.retry);
    if (!this.sending && !this.ended && this.ops.length > 0) void this.send();
  };

  /** Stops sending for good; what is pending stays in storage. */
  close(): void {
    this.ended = true;
    clearTimeout(this.retry);
    window.removeEventListener('online', this.flush);
  }

  /** What is unsent is dropped: it would be refused again whenever the shot is opened. */
  end(state: 'stale' | 'refused', why: string | null = null): void {
    this.close();
    this.ops = [];
    this.keep();
    this.onState(state, why);
  }

  private async send(): Promise<void> {
    this.sending = true;
    this.onState('saving', null);
    try {
      for (let next = this.ops[0]; next && !this.ended; next = this.ops[0]) {
        this.revision = await sendOp(this.shotId, next);
        this.faults = 0;
        this.ops.shift();
        this.keep();
      }
      if (!this.ended) this.onState('saved', null);
    } catch (error) {
      if (error instanceof ServerUnreachable) this.waitAndRetry(null);
      else if (!(error instanceof ServerRefusal)) throw error;
      else if (mayPass(error) && ++this.faults <= MOST_FAULTS) this.waitAndRetry(error.problem.detail);
      else this.end(error.problem.code === 'stale-revision' ? 'stale' : 'refused', error.problem.detail);
    } finally {
      this.sending = false;
    }
  }

  private waitAndRetry(why: string | null): void {
    if (this.ended) return;
    this.onState('offline', why);
    this.retry = setTimeout(this.flush, RETRY_MS);
  }

  private keep(): void {
    const key = pendingKey(this.shotId);
    if (this.ops.length === 0) {
      localStorage.removeItem(key);
      return;
    }
    try {
      localStorage.setItem(key, JSON.stringify(this.ops));
    } catch (error) {
      if (!(error instanceof DOMException && error.name === 'QuotaExceededError')) throw error;
      // Too large for the browser's storage: it is sent from memory alone, and an older list must not be sent for it.
      localStorage.removeItem(key);
    }
  }
}

/** A fault of the server's own (RFC 9110, section 15.6), unlike an edit that it will never take. */
const mayPass = ({ problem }: ServerRefusal): boolean => problem.status >= 500;

const sendOp = async (shotId: string, request: OpRequest): Promise<number> =>
  (await ask(revisionSchema, `/api/shots/${shotId}/ops`, { method: 'POST', body: request })).revision;

/** Edits that an earlier tab left and that could not be kept: how many, and what the server said of the first. */
export interface DroppedEdits {
  readonly count: number;
  readonly why: string | null;
}

/**
 * Sends what an earlier tab left unsent, before the shot is loaded. What the server refuses is dropped with all that was
 * made on it, and told; rejects with ServerUnreachable while the server is down, keeping everything.
 */
export async function sendLeftOver(shotId: string): Promise<DroppedEdits> {
  const stored = localStorage.getItem(pendingKey(shotId));
  if (stored === null) return { count: 0, why: null };
  const ops = pendingSchema.safeParse(JSON.parse(stored));
  let sent = 0;
  let why: string | null = null;
  try {
    for (const op of ops.success ? ops.data : []) {
      await sendOp(shotId, op);
      sent += 1;
    }
  } catch (error) {
    if (!(error instanceof ServerRefusal)) throw error;
    if (error.problem.code !== 'stale-revision') why = error.problem.detail;
  }
  localStorage.removeItem(pendingKey(shotId));
  return { count: (ops.success ? ops.data.length : 1) - sent, why };
}
