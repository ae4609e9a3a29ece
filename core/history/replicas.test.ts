import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { setPlanesHidden } from '../edits/planes/index.ts';
import type { Scene } from '../scene/index.ts';
import { planeOf } from '../scene/records/index.ts';
import {
  randomSteps,
  STEP_PLANES,
  sceneBytes,
  TestShotServer,
  testPlane,
  testScene,
} from '../testing/index.ts';
import type { Author } from './author.ts';
import type { Op } from './entry.ts';
import {
  type Pending,
  type Replica,
  received,
  sceneBefore,
  sceneOfReplica,
  stacksOfReplica,
  withEdit,
  withoutOp,
  withRedo,
  withUndo,
} from './replica.ts';

const start = testScene(STEP_PLANES.map((id, i) => testPlane({ id, depthSpx: i * 300 })));
const AT = '2026-01-01T00:00:00.000Z';

const asOp = ({ kind, entry, patch }: Pending): Op =>
  kind === 'edit' ? { kind, action: entry.action, subject: entry.subject, patch } : { kind, edit: entry.id };

class Window {
  replica: Replica;
  readonly acknowledged: string[] = [];
  readonly dropped: Pending[] = [];
  private readonly nextId: () => string;

  constructor(author: Author, nextId: () => string) {
    this.nextId = nextId;
    this.replica = { author, revision: 0, base: start, stacks: { undo: [], redo: [] }, pending: [] };
  }

  edit(step: (scene: Scene) => Scene): void {
    const scene = step(sceneOfReplica(this.replica));
    const edit = { opId: this.nextId(), action: 'set-depth', subject: '', scene, at: AT } as const;
    this.replica = withEdit(this.replica, edit) ?? this.replica;
  }

  /** Whether there was anything that could be taken back. */
  undo(): boolean {
    const undone = withUndo(this.replica, this.nextId());
    if (undone.ok) this.replica = undone.value;
    return undone.ok;
  }

  redo(): void {
    const redone = withRedo(this.replica, this.nextId());
    if (redone.ok) this.replica = redone.value;
  }

  send(server: TestShotServer, answered: boolean): void {
    const [op] = this.replica.pending;
    if (!op) return;
    const taken = server.take({ opId: op.opId, op: asOp(op), author: this.replica.author });
    if (!answered) return;
    this.receive(server, server.log.length);
    if (taken) this.acknowledged.push(op.opId);
    else this.drop(withoutOp(this.replica, op.opId));
  }

  receive(server: TestShotServer, upTo: number): void {
    this.drop(received(this.replica, server.log.slice(0, upTo)));
  }

  private drop({ replica, dropped }: { replica: Replica; dropped: readonly Pending[] }): void {
    this.replica = replica;
    this.dropped.push(...dropped);
  }

  settle(server: TestShotServer): void {
    while (this.replica.pending.length > 0) this.send(server, true);
    this.receive(server, server.log.length);
  }
}

const ids = () => {
  let count = 0;
  return () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
};

/** Two artists, the second of them at two windows. */
function studio(): { server: TestShotServer; windows: readonly Window[] } {
  const nextId = ids();
  const [one, two] = [
    { id: 'one', name: 'One' },
    { id: 'two', name: 'Two' },
  ];
  return {
    server: new TestShotServer(start),
    windows: [one, two, two].map((author) => new Window(author, nextId)),
  };
}

type Act = (window: Window, server: TestShotServer) => void;
const acts: fc.Arbitrary<Act> = fc.oneof(
  {
    weight: 5,
    arbitrary: randomSteps.map(
      (step): Act =>
        (window) =>
          window.edit(step),
    ),
  },
  { weight: 1, arbitrary: fc.constant<Act>((window) => window.undo()) },
  { weight: 1, arbitrary: fc.constant<Act>((window) => window.redo()) },
  {
    weight: 4,
    arbitrary: fc.boolean().map(
      (answered): Act =>
        (window, server) =>
          window.send(server, answered),
    ),
  },
  {
    weight: 2,
    arbitrary: fc.double({ min: 0, max: 1, noNaN: true }).map(
      (share): Act =>
        (window, server) =>
          window.receive(server, Math.ceil(share * server.log.length)),
    ),
  },
);
const plays = fc.array(fc.tuple(fc.nat({ max: 2 }), acts), { minLength: 20, maxLength: 80 });

describe('two artists at three windows, in any order and with any answers lost', () => {
  it('end in the same bytes as the server, with every acknowledged edit in the history, and undo to the start', () => {
    let [conflicts, merged] = [0, 0];
    fc.assert(
      fc.property(plays, (play) => {
        const { server, windows } = studio();
        for (const [who, act] of play) act(windows[who]!, server);
        for (const window of [...windows, ...windows]) window.settle(server);
        for (const { replica, acknowledged, dropped } of windows) {
          expect(replica.revision).toBe(server.log.length);
          expect(sceneBytes(sceneOfReplica(replica))).toBe(sceneBytes(server.scene));
          const logged = new Set(server.log.map(({ opId }) => opId));
          expect(acknowledged.filter((opId) => !logged.has(opId))).toEqual([]);
          conflicts += dropped.length;
        }
        merged += new Set(server.log.map(({ entry }) => entry.author.id)).size > 1 ? 1 : 0;
        // Edits that others have built on can be undone once those have undone theirs.
        for (let more = true; more; ) {
          more = false;
          for (const window of windows) {
            while (window.undo()) more = true;
            window.settle(server);
          }
          for (const window of windows) window.settle(server);
        }
        for (const { replica } of windows) expect(stacksOfReplica(replica).undo).toEqual([]);
        expect(sceneBytes(server.scene)).toBe(sceneBytes(withPlacesOf(start, server.scene)));
      }),
      { seed: 24, numRuns: 250 },
    );
    // The play is no play where nobody ever meets.
    expect(conflicts).toBeGreaterThan(100);
    expect(merged).toBeGreaterThan(100);
  });
});

/** The order may still hold the places of planes that are gone; among those that are there it is the first one's. */
function withPlacesOf(scene: Scene, { order }: Scene): Scene {
  const there = new Set(scene.order);
  expect(order.filter((id) => there.has(id))).toEqual(scene.order);
  return { ...scene, order: [...order] };
}

describe('a window', () => {
  const [A, B] = STEP_PLANES as [(typeof STEP_PLANES)[number], (typeof STEP_PLANES)[number]];
  const hide = (id: typeof A) => (scene: Scene) => setPlanesHidden(scene, new Set([id]), true);

  it('keeps the very scene that it shows when the server takes an edit as it was sent', () => {
    const { server, windows } = studio();
    const [one] = windows as [Window];
    one.edit(hide(A));
    const shown = sceneOfReplica(one.replica);
    one.send(server, true);
    expect(one.replica.pending).toEqual([]);
    expect(sceneOfReplica(one.replica)).toBe(shown);
  });

  it('drops what lost the race, and what was made on it, and keeps the rest', () => {
    const { server, windows } = studio();
    const [one, two] = windows as [Window, Window];
    const to = (depthSpx: number) => (scene: Scene) =>
      setPlaneDepth(scene, A, { depthSpx, atFrame: 1, holdPicture: false });
    one.edit(to(500));
    one.settle(server);
    two.edit(to(700));
    two.edit(hide(B));
    two.edit(to(900));
    two.settle(server);
    expect(two.dropped.map(({ entry }) => entry.patch.map(({ path }) => path)[0])).toEqual([
      '/planes/a/depthSpx',
      '/planes/a/depthSpx',
    ]);
    expect(planeOf(sceneOfReplica(two.replica), A)?.depthSpx).toBe(500);
    expect(server.log).toHaveLength(2);
    expect(planeOf(server.scene, B)?.hidden).toBe(true);
  });

  it('says that an edit cannot be taken back where somebody has touched it since', () => {
    const { server, windows } = studio();
    const [one, two] = windows as [Window, Window];
    one.edit(hide(A));
    one.settle(server);
    two.settle(server);
    two.edit((scene) => setPlanesHidden(scene, new Set([A]), false));
    two.settle(server);
    one.settle(server);
    expect(withUndo(one.replica, ids()())).toMatchObject({
      ok: false,
      error: { code: 'conflict', paths: ['/planes/a/hidden'] },
    });
  });

  it('asks for revisions that it lacks, and finds the scene before some of them', () => {
    const { server, windows } = studio();
    const [one, two] = windows as [Window, Window];
    for (const id of [A, B]) one.edit(hide(id));
    one.settle(server);
    const late = received(two.replica, server.log.slice(1));
    expect([late.gap, late.replica.revision]).toEqual([true, 0]);
    expect(sceneBefore(server.scene, server.log)).toEqual(start);
    expect(sceneBefore(start, server.log)).toBeNull();
  });
});
