import { type Op, type OpRequest, opRequestSchema, revisionSchema } from '@keen-ridge/core/contract';
import { z } from 'zod';
import { ask, ServerRefusal, ServerUnreachable } from '../api/client.ts';

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
  private readonly onState: (state: SaveState) => void;
  private ops: OpRequest[] = [];
  private revision: number;
  private sending = false;
  private ended = false;
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(shotId: string, revision: number, onState: (state: SaveState) => void) {
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

  end(state: 'stale' | 'refused'): void {
    this.close();
    this.ops = [];
    this.keep();
    this.onState(state);
  }

  private async send(): Promise<void> {
    this.sending = true;
    this.onState('saving');
    try {
      for (let next = this.ops[0]; next && !this.ended; next = this.ops[0]) {
        this.revision = await sendOp(this.shotId, next);
        this.ops.shift();
        this.keep();
      }
      if (!this.ended) this.onState('saved');
    } catch (error) {
      if (error instanceof ServerRefusal)
        this.end(error.problem.code === 'stale-revision' ? 'stale' : 'refused');
      else if (error instanceof ServerUnreachable) this.waitAndRetry();
      else throw error;
    } finally {
      this.sending = false;
    }
  }

  private waitAndRetry(): void {
    if (this.ended) return;
    this.onState('offline');
    this.retry = setTimeout(this.flush, RETRY_MS);
  }

  private keep(): void {
    if (this.ops.length === 0) localStorage.removeItem(pendingKey(this.shotId));
    else localStorage.setItem(pendingKey(this.shotId), JSON.stringify(this.ops));
  }
}

const sendOp = async (shotId: string, request: OpRequest): Promise<number> =>
  (await ask(revisionSchema, `/api/shots/${shotId}/ops`, { method: 'POST', body: request })).revision;

/**
 * Sends what an earlier tab left unsent, before the shot is loaded. Returns how many edits no longer fitted and were
 * dropped; rejects with ServerUnreachable while the server is down, keeping them.
 */
export async function sendLeftOver(shotId: string): Promise<number> {
  const stored = localStorage.getItem(pendingKey(shotId));
  if (stored === null) return 0;
  const ops = pendingSchema.safeParse(JSON.parse(stored));
  let sent = 0;
  try {
    for (const op of ops.success ? ops.data : []) {
      await sendOp(shotId, op);
      sent += 1;
    }
  } catch (error) {
    if (!(error instanceof ServerRefusal)) throw error;
  }
  localStorage.removeItem(pendingKey(shotId));
  return (ops.success ? ops.data.length : 1) - sent;
}
