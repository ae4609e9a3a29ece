import type { Shot } from '@keen-ridge/core/contract';
import { differenceBetween } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { TestShotServer } from '@keen-ridge/core/testing';
import { vi } from 'vitest';
import { ServerRefusal, ServerUnreachable } from '../api/client.ts';
import type { ShotListener } from '../api/shot.ts';
import type { ShotServer } from '../session/shot-link.ts';

export const TEST_AUTHOR = { id: 'me', name: 'Me' };

export const testShot = (scene: Scene): Shot => ({
  id: '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a11',
  name: '010',
  productionId: '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a12',
  productionName: 'Salt Lanterns',
  role: 'run',
  revision: 1,
  scene,
  undo: [],
  redo: [],
});

const problem = (status: number, code: string, detail: string) =>
  new ServerRefusal({ type: 'x', title: 'x', status, code, detail } as ServerRefusal['problem']);

/** A server that a link can talk to, with the ways in which a network or a server can fail. */
export class FakeShotServer implements ShotServer {
  readonly inner: TestShotServer;
  readonly sent: string[] = [];
  down = false;
  loseAnswers = false;
  forgets = false;
  /** Answers about revisions wait for it. */
  slow: Promise<void> = Promise.resolve();
  /** What every op is answered with instead of being done. */
  refusing: null | { status: number; code: string; detail: string } = null;
  private listeners: { after: number; listener: ShotListener }[] = [];
  private readonly shot: Shot;

  constructor(shot: Shot) {
    this.shot = shot;
    this.inner = new TestShotServer(shot.scene, shot.revision);
  }

  sendOp: ShotServer['sendOp'] = async (_id, request) => {
    if (this.down) throw new ServerUnreachable('down');
    this.sent.push(request.op.kind);
    if (this.refusing) throw problem(this.refusing.status, this.refusing.code, this.refusing.detail);
    const taken = this.inner.take(request);
    if (this.loseAnswers) throw new ServerUnreachable('lost');
    if (!taken) throw problem(409, 'conflict', 'Somebody has changed the same meanwhile.');
    if (this.forgets) throw problem(410, 'forgotten', 'too long ago');
    return this.inner.after(request.revision);
  };

  readRevisions: ShotServer['readRevisions'] = async (_id, after) => {
    if (this.down) throw new ServerUnreachable('down');
    if (this.forgets) throw problem(410, 'forgotten', 'too long ago');
    await this.slow;
    return this.inner.after(after);
  };

  readShot: ShotServer['readShot'] = async () => {
    if (this.down) throw new ServerUnreachable('down');
    return { ...this.shot, scene: this.inner.scene, revision: this.inner.revision };
  };

  listenToShot: ShotServer['listenToShot'] = (_id, after, listener) => {
    const entry = { after, listener };
    this.listeners.push(entry);
    return () => {
      this.listeners = this.listeners.filter((other) => other !== entry);
    };
  };

  /** Pushes everything to whoever listens, or says that it is forgotten. */
  push(): void {
    for (const { after, listener } of this.listeners) {
      if (this.forgets) listener.onForgotten();
      else for (const step of this.inner.after(after)) listener.onRevision(step);
    }
  }

  /** Pushes the last step alone. */
  pushLast(): void {
    for (const { listener } of this.listeners) listener.onRevision(this.inner.log.at(-1)!);
  }

  /** An edit of somebody else at the scene as the server has it. */
  otherEdits(edit: (scene: Scene) => Scene): void {
    const { scene } = this.inner;
    const patch = differenceBetween(scene, edit(scene));
    const op = { kind: 'edit', action: 'rename-plane', subject: 'Hill', patch } as const;
    this.inner.take({ opId: crypto.randomUUID(), author: { id: 'ines', name: 'Ines' }, op });
  }
}

/** What a link needs of a browser. */
export function stubBrowser(stored = new Map<string, string>()): Map<string, string> {
  vi.stubGlobal('window', { addEventListener: () => {}, removeEventListener: () => {} });
  vi.stubGlobal('localStorage', {
    get length() {
      return stored.size;
    },
    key: (i: number) => [...stored.keys()][i] ?? null,
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
    removeItem: (key: string) => void stored.delete(key),
  });
  const held = new Set<string>();
  vi.stubGlobal('navigator', {
    locks: {
      request: async (name: string, ...rest: [object, Holder] | [Holder]) => {
        const work = rest.at(-1) as Holder;
        // Only what is asked of it here: one that is free, or a look whether it is.
        if (held.has(name)) return work(null);
        held.add(name);
        return Promise.resolve(work({ name })).finally(() => held.delete(name));
      },
    },
  });
  return stored;
}

type Holder = (lock: object | null) => unknown;
