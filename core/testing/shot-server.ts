import {
  type Author,
  type HistoryEntry,
  inverseOf,
  landPatch,
  type Op,
  type Patch,
  type Revision,
} from '../history/index.ts';
import type { Scene } from '../scene/index.ts';

export interface TestOp {
  readonly opId: string;
  readonly author: Author;
  readonly op: Op;
}

/** What a server does with ops, in a few lines: lands what still lands, once each, in the order in which it comes. */
export class TestShotServer {
  scene: Scene;
  revision: number;
  readonly log: Revision[] = [];
  private readonly edits = new Map<string, { entry: HistoryEntry; done: boolean }>();

  constructor(scene: Scene, revision = 0) {
    this.scene = scene;
    this.revision = revision;
  }

  /** Whether the op stands in the log now. */
  take({ opId, op, author }: TestOp): boolean {
    if (this.log.some((step) => step.opId === opId)) return true;
    const known = op.kind === 'edit' ? undefined : this.edits.get(op.edit);
    if (op.kind !== 'edit' && known?.done !== (op.kind === 'undo')) return false;
    const landed = landPatch(this.scene, wanted(op, known?.entry));
    if (!landed.ok) return false;
    this.scene = landed.value.scene;
    const { patch } = landed.value;
    const entry = { ...entryOf({ opId, op, author }, known?.entry), author };
    const now = op.kind === 'undo' ? entry : { ...entry, patch };
    this.edits.set(now.id, { entry: now, done: op.kind !== 'undo' });
    this.revision += 1;
    this.log.push({ revision: this.revision, opId, kind: op.kind, entry: now, patch });
    return true;
  }

  after(revision: number): Revision[] {
    return this.log.filter((step) => step.revision > revision);
  }
}

const wanted = (op: Op, known: HistoryEntry | undefined): Patch => {
  if (op.kind === 'edit') return op.patch;
  return op.kind === 'undo' ? inverseOf(known!.patch) : known!.patch;
};

function entryOf({ opId, op, author }: TestOp, known: HistoryEntry | undefined): HistoryEntry {
  if (op.kind !== 'edit') return known!;
  const { action, subject, patch } = op;
  return { id: opId, action, subject, patch, author, at: '2026-01-01T00:00:00.000Z' };
}
