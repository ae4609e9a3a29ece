import type { Database } from '../../db/connection/queryable.ts';
import type { RevisionListener } from '../../db/connection/revision-listener.ts';
import { readRevision } from '../../db/shots.ts';
import { revisionsAfter } from '../history.ts';

/** A step as it is told to windows: the same text for all of them. */
export interface ToldStep {
  readonly revision: number;
  readonly text: string;
}

/** What is kept of a shot: windows that are further behind read for themselves. */
const MOST_STEPS = 300;
const MOST_CHARACTERS = 4 * 2 ** 20;

interface Followed {
  holders: number;
  /** The newest revision that is known here; null before it was read. */
  head: number | null;
  steps: ToldStep[];
  /** There may be a newer one. */
  stale: boolean;
  loading: Promise<void> | null;
  readonly unfollow: () => void;
}

/**
 * The newest steps of the shots that windows follow, read once for all windows of a server: fifty windows of a shot must not
 * ask the database fifty times for each edit.
 */
export class NewestSteps {
  private readonly db: Database;
  private readonly listener: RevisionListener;
  private readonly shots = new Map<string, Followed>();

  constructor(db: Database, listener: RevisionListener) {
    this.db = db;
    this.listener = listener;
  }

  /** Follows a shot until the returned function is called. Call it before following the shot oneself. */
  hold(shotId: string): () => void {
    const there = this.shots.get(shotId);
    const followed: Followed = there ?? {
      holders: 0,
      head: null,
      steps: [],
      stale: true,
      loading: null,
      unfollow: this.listener.follow(shotId, () => {
        followed.stale = true;
      }),
    };
    this.shots.set(shotId, followed);
    followed.holders += 1;
    return () => {
      followed.holders -= 1;
      if (followed.holders > 0) return;
      followed.unfollow();
      this.shots.delete(shotId);
    };
  }

  /** The steps after a revision, oldest first. Rejects as `revisionsAfter` does. */
  async after(shotId: string, known: number): Promise<readonly ToldStep[]> {
    const followed = this.shots.get(shotId);
    if (!followed) return this.read(shotId, known);
    while (followed.stale || followed.loading) {
      followed.loading ??= this.load(shotId, followed).finally(() => {
        followed.loading = null;
      });
      await followed.loading;
    }
    const first = followed.steps[0]?.revision ?? (followed.head ?? 0) + 1;
    return known >= first - 1
      ? followed.steps.filter(({ revision }) => revision > known)
      : this.read(shotId, known);
  }

  private async load(shotId: string, followed: Followed): Promise<void> {
    followed.stale = false;
    try {
      if (followed.head === null) {
        followed.head = await readRevision(this.db, shotId);
        return;
      }
      const steps = await this.read(shotId, followed.head);
      followed.head = steps.at(-1)?.revision ?? followed.head;
      followed.steps = newest([...followed.steps, ...steps]);
    } catch (error) {
      // Whoever asks next reads anew.
      followed.stale = true;
      followed.head = null;
      followed.steps = [];
      throw error;
    }
  }

  private async read(shotId: string, known: number): Promise<ToldStep[]> {
    const steps = await revisionsAfter(this.db, shotId, known);
    return steps.map((step) => ({
      revision: step.revision,
      text: `id: ${step.revision}\nevent: revision\ndata: ${JSON.stringify(step)}\n\n`,
    }));
  }
}

/** The last of them, as many as are kept. */
function newest(steps: readonly ToldStep[]): ToldStep[] {
  let characters = 0;
  let from = steps.length;
  while (from > 0 && steps.length - from < MOST_STEPS) {
    characters += steps[from - 1]!.text.length;
    if (characters > MOST_CHARACTERS) break;
    from -= 1;
  }
  return steps.slice(from);
}
