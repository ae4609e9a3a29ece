import type { ConflictBy } from '@keen-ridge/core/contract';
import type { Present } from '@keen-ridge/core/contract/people';
import {
  type Author,
  overlap,
  type Pending,
  patchOfStep,
  type Replica,
  type Revision,
  received,
  restored,
  sceneOfReplica,
  touchedBy,
  withoutOp,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { ServerRefusal, ServerUnreachable } from '../api/client.ts';
import { listenToShot, readRevisions, readShot, sendOp } from '../api/shot.ts';
import { keepUnsent, markAlive } from './unsent.ts';

/** Times that an edit is sent again on which the server met a fault of its own before it counts as refused. */
const MOST_FAULTS = 4;
const RETRY_MS = 1200;
/** Steps of others that are remembered, to say who was there before. */
const REMEMBERED = 500;

/** `offline`: nobody answers, or not without a fault; what is unsent is kept and sent when somebody does. */
export const SAVE_STATES = ['saved', 'saving', 'offline'] as const;
export type SaveState = (typeof SAVE_STATES)[number];

/** Edits that could not be put on top of the shot as it is now. */
export interface Lost {
  readonly ops: readonly Pending[];
  /** The shot as it was seen with them. */
  readonly scene: Scene;
  /** Who was there before, where it was somebody; else what the server said. */
  readonly by: ConflictBy | null;
  readonly why: string | null;
}

export interface LinkEvents {
  onReplica(replica: Replica): void;
  onSaveState(state: SaveState, why: string | null): void;
  onLost(lost: Lost): void;
  onPresent(present: readonly Present[]): void;
}

/** What the link asks of the server: replaced in tests. */
export const SHOT_SERVER = { listenToShot, readRevisions, readShot, sendOp };
export type ShotServer = typeof SHOT_SERVER;

/**
 * Keeps a window's copy of a shot in step with the server: sends its ops one by one, takes in what others did as it is
 * pushed, and lands what waits on top of it. What is not answered yet also lies in the browser's storage.
 */
export class ShotLink {
  private readonly shotId: string;
  private readonly events: LinkEvents;
  private readonly server: ShotServer;
  private readonly windowId: string = crypto.randomUUID();
  private ends: (() => void)[] = [];
  private unlisten: () => void = () => {};
  private now: Replica;
  private others: Revision[] = [];
  private sending = false;
  /** The shot was left: what waits is still sent, and then it ends. */
  private leaving = false;
  private ended = false;
  private retry: ReturnType<typeof setTimeout> | undefined;
  /** Steps that are missing are asked for again. */
  private missing: ReturnType<typeof setTimeout> | undefined;
  /** Faults that the server met on the op that is next, one after another. */
  private faults = 0;

  constructor(shotId: string, replica: Replica, events: LinkEvents, server: ShotServer = SHOT_SERVER) {
    this.shotId = shotId;
    this.now = replica;
    this.events = events;
    this.server = server;
    this.live();
    this.listen();
    this.keep();
    this.flush();
  }

  get replica(): Replica {
    return this.now;
  }

  /** Edits are made under this name from now on. */
  setAuthor(author: Author): void {
    this.now = { ...this.now, author };
  }

  /** Takes on a replica with one more op, which is sent, after the shot was left too. */
  push(replica: Replica): void {
    if (this.ended) this.live();
    this.become(replica);
    this.flush();
  }

  readonly flush = (): void => {
    clearTimeout(this.retry);
    if (!this.sending && !this.ended && this.now.pending.length > 0) void this.send();
  };

  /** The last step of somebody else that is known at one of some fields. */
  whoTouched(paths: readonly string[]): ConflictBy | null {
    const step = this.others.findLast((revision) =>
      touchedBy(patchOfStep(revision)).some((touched) => paths.some((path) => overlap(path, touched))),
    );
    if (!step) return null;
    const { author, action, subject, at } = step.entry;
    return { author, action, subject, at };
  }

  /** The shot is left. What waits is still sent while the server answers; what cannot be stays in storage for the next window. */
  close(): void {
    this.leaving = true;
    clearTimeout(this.missing);
    this.unlisten();
    if (!this.sending) this.end();
  }

  /** Says that this window keeps what is unsent here. */
  private live(): void {
    this.ended = false;
    window.addEventListener('online', this.flush);
    this.ends = [markAlive(this.windowId), () => window.removeEventListener('online', this.flush)];
  }

  private end(): void {
    this.ended = true;
    clearTimeout(this.retry);
    for (const end of this.ends) end();
    this.ends = [];
  }

  private listen(): void {
    this.unlisten = this.server.listenToShot(this.shotId, this.now.revision, {
      onRevision: (revision) => {
        if (this.receive([revision])) void this.catchUp();
      },
      onPresent: (present) => this.events.onPresent(present),
      onForgotten: () => void this.readAnew(),
    });
  }

  private become(replica: Replica): void {
    this.now = replica;
    this.keep();
    this.events.onReplica(replica);
  }

  /** Takes in steps; whether one before them is missing. */
  private receive(revisions: readonly Revision[]): boolean {
    if (this.ended) return false;
    const seen = sceneOfReplica(this.now);
    const before = this.now.revision;
    const { replica, foreign, dropped, gap } = received(this.now, revisions);
    this.others = [...this.others, ...foreign].slice(-REMEMBERED);
    if (replica.revision > before) this.become(replica);
    this.lose(dropped, seen, null);
    return gap;
  }

  private lose(ops: readonly Pending[], scene: Scene, fault: ServerRefusal | null): void {
    if (ops.length === 0) return;
    const paths = ops.flatMap(({ patch }) => touchedBy(patch));
    const by = fault?.problem.conflict?.by ?? this.whoTouched(paths);
    this.events.onLost({ ops, scene, by, why: by ? null : (fault?.problem.detail ?? null) });
  }

  /** Asks for steps that never came. */
  private async catchUp(): Promise<void> {
    try {
      const gap = this.receive(await this.server.readRevisions(this.shotId, this.now.revision));
      if (gap) await this.readAnew();
    } catch (error) {
      if (error instanceof ServerRefusal) await this.readAnew();
      else if (!(error instanceof ServerUnreachable)) throw error;
      else if (!this.ended) this.missing = setTimeout(() => void this.catchUp(), RETRY_MS);
    }
  }

  /** Reads the whole shot, where its steps are no longer known, and lands what waits on it but an op that was `taken`. */
  private async readAnew(taken?: string): Promise<void> {
    try {
      const shot = await this.server.readShot(this.shotId, this.now.author.id);
      if (this.ended) return;
      const seen = sceneOfReplica(this.now);
      const { replica, dropped } = restored(
        shot,
        this.now.author,
        this.now.pending.filter(({ opId }) => opId !== taken),
      );
      this.become(replica);
      this.lose(dropped, seen, null);
      this.unlisten();
      if (!this.leaving) this.listen();
    } catch (error) {
      // Whoever is away is heard of by the next op, which waits for it; a shot that is gone refuses it.
      if (!(error instanceof ServerUnreachable || error instanceof ServerRefusal)) throw error;
      if (!this.ended) this.retry = setTimeout(() => void this.readAnew(taken), RETRY_MS);
    }
  }

  private async send(): Promise<void> {
    this.sending = true;
    this.events.onSaveState('saving', null);
    try {
      for (let next = this.now.pending[0]; next && !this.ended; next = this.now.pending[0]) {
        await this.sendOne(next);
        this.faults = 0;
      }
      if (!this.ended) this.events.onSaveState('saved', null);
    } catch (error) {
      if (error instanceof ServerUnreachable) this.waitAndRetry(error.said);
      else if (error instanceof ServerRefusal) this.waitAndRetry(error.problem.detail);
      else throw error;
    } finally {
      this.sending = false;
      if (this.leaving) this.end();
    }
  }

  /** Sends one op and takes in the answer; throws what may pass. */
  private async sendOne({ opId, kind, entry, patch }: Pending): Promise<void> {
    const { action, subject } = entry;
    const op = kind === 'edit' ? { kind, action, subject, patch } : { kind, edit: entry.id };
    const { revision, author } = this.now;
    try {
      const gap = this.receive(await this.server.sendOp(this.shotId, { opId, revision, author, op }));
      if (gap) await this.catchUp();
      // Taken long ago, and known: nothing is left to wait for.
      if (this.now.pending[0]?.opId === opId) this.become(withoutOp(this.now, opId).replica);
    } catch (error) {
      if (!(error instanceof ServerRefusal)) throw error;
      // It was taken; only what else was done since the revision that it was made on is no longer told.
      if (error.problem.code === 'forgotten') return this.readAnew(opId);
      // A fault of the server's own (RFC 9110, section 15.6), unlike an edit that it will never take.
      if (error.problem.status >= 500 && ++this.faults <= MOST_FAULTS) throw error;
      await this.refused(opId, error);
    }
  }

  /** An op that the server will not take: what others did first, then without it. */
  private async refused(opId: string, error: ServerRefusal): Promise<void> {
    const since =
      error.problem.code === 'conflict'
        ? await this.server.readRevisions(this.shotId, this.now.revision)
        : [];
    // Only now: more may have been done, here and there, while it was asked.
    const seen = sceneOfReplica(this.now);
    const known = received(this.now, since);
    this.others = [...this.others, ...known.foreign].slice(-REMEMBERED);
    const { replica, dropped } = withoutOp(known.replica, opId);
    this.become(replica);
    this.lose([...known.dropped, ...dropped], seen, error);
  }

  private waitAndRetry(why: string | null): void {
    if (this.ended || this.leaving) return;
    this.events.onSaveState('offline', why);
    this.retry = setTimeout(this.flush, RETRY_MS);
  }

  private keep(): void {
    const ops = this.now.pending.map(({ after: _, ...op }) => op);
    keepUnsent(this.shotId, this.windowId, { revision: this.now.revision, ops });
  }
}
