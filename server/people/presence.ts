import { EventEmitter } from 'node:events';
import {
  PRESENT_SECONDS,
  type Present,
  type SayPresent,
  sayPresentSchema,
} from '@keen-ridge/core/contract/people';
import { sayTo } from '../db/connection/channels.ts';
import type { Database } from '../db/connection/queryable.ts';
import type { RevisionListener } from '../db/connection/revision-listener.ts';
import { logFault } from '../faults/cause.ts';

const LOOK_EVERY_MS = 5000;

interface Here extends Present {
  readonly until: number;
}

/** Windows in which a shot may be open at once, as far as they are told of. */
const MOST_WINDOWS = 200;

/** Who else is in which shot: said by windows, heard by every server of the database, forgotten where nothing is said. */
export class Presence {
  private readonly db: Database;
  private readonly shots = new Map<string, Map<string, Here>>();
  private readonly changed = new EventEmitter().setMaxListeners(0);
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(db: Database, listener: RevisionListener) {
    this.db = db;
    listener.hear('presence', (text) => this.take(text));
    this.timer = setInterval(() => this.forget(), LOOK_EVERY_MS).unref();
  }

  /** Tells all servers what a window says of itself. */
  async say(shotId: string, said: SayPresent): Promise<void> {
    await sayTo(this.db, 'presence', JSON.stringify({ shotId, said }));
  }

  in(shotId: string): Present[] {
    return [...(this.shots.get(shotId)?.values() ?? [])].map(({ window, author, plane }) => ({
      window,
      author,
      plane,
    }));
  }

  /** Calls `onChange` whenever somebody came, went or chose another plane, until the returned function is called. */
  follow(shotId: string, onChange: () => void): () => void {
    this.changed.on(shotId, onChange);
    return () => this.changed.off(shotId, onChange);
  }

  close(): void {
    clearInterval(this.timer);
  }

  private take(text: string): void {
    try {
      const { shotId, said } = JSON.parse(text) as { shotId: string; said: unknown };
      const { gone, ...present } = sayPresentSchema.parse(said);
      const here = this.shots.get(shotId) ?? new Map<string, Here>();
      const before = here.get(present.window);
      if (gone) here.delete(present.window);
      else if (before || here.size < MOST_WINDOWS)
        here.set(present.window, { ...present, until: performance.now() + PRESENT_SECONDS * 1000 });
      if (here.size > 0) this.shots.set(shotId, here);
      else this.shots.delete(shotId);
      const same =
        before && !gone && before.plane === present.plane && before.author.name === present.author.name;
      if (!same) this.changed.emit(shotId);
    } catch (error) {
      logFault('What a server said of a window cannot be read', error);
    }
  }

  private forget(): void {
    const now = performance.now();
    for (const [shotId, here] of this.shots) {
      const gone = [...here.values()].filter(({ until }) => until < now);
      for (const { window } of gone) here.delete(window);
      if (here.size === 0) this.shots.delete(shotId);
      if (gone.length > 0) this.changed.emit(shotId);
    }
  }
}
