import { opRequestSchema } from '@keen-ridge/core/contract';
import {
  type Author,
  type Pending,
  type Replica,
  received,
  restored,
  sceneOfReplica,
  stacksOfReplica,
  withEdit,
  withoutOp,
  withRedo,
  withUndo,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { randomSteps, STEP_PLANES, sceneBytes, testPlane } from '@keen-ridge/core/testing';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ProblemError } from '../faults/problems.ts';
import { callsOf, edit } from '../testing/calls.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';
import { applyOp, revisionsAfter } from './history.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp();
});
afterAll(() => app.close());
const { newShot, shotAt, send } = callsOf(() => app.url);

/** A window of an artist on the real server, with a network that loses what it likes. */
class Window {
  readonly acknowledged: string[] = [];
  private readonly shotId: string;
  replica: Replica;

  constructor(shotId: string, replica: Replica) {
    this.shotId = shotId;
    this.replica = replica;
  }

  edit(step: (scene: Scene) => Scene): void {
    const opId = crypto.randomUUID();
    const scene = step(sceneOfReplica(this.replica));
    const made = { opId, action: 'set-depth', subject: '', scene, at: new Date(0).toISOString() } as const;
    this.replica = withEdit(this.replica, made) ?? this.replica;
  }

  turn(way: 'undo' | 'redo'): boolean {
    const turned = (way === 'undo' ? withUndo : withRedo)(this.replica, crypto.randomUUID());
    if (turned.ok) this.replica = turned.value;
    return turned.ok;
  }

  /** Sends the op that is next; its answer may be lost, and it be sent again. */
  async send(answered: boolean): Promise<void> {
    const [next] = this.replica.pending;
    if (!next) return;
    const { revision, author } = this.replica;
    const request = opRequestSchema.parse({ opId: next.opId, revision, author, op: opOf(next) });
    try {
      const revisions = await applyOp(app.db, this.shotId, request);
      if (!answered) return;
      this.replica = received(this.replica, revisions).replica;
      this.acknowledged.push(next.opId);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      expect(['conflict', 'nothing-to-undo']).toContain(error.problem.code);
      if (!answered) return;
      await this.receive();
      this.replica = withoutOp(this.replica, next.opId).replica;
    }
  }

  async receive(): Promise<void> {
    const { replica, gap } = received(
      this.replica,
      await revisionsAfter(app.db, this.shotId, this.replica.revision),
    );
    expect(gap).toBe(false);
    this.replica = replica;
  }

  async settle(): Promise<void> {
    while (this.replica.pending.length > 0) await this.send(true);
    await this.receive();
  }
}

const opOf = ({ kind, entry, patch }: Pending) =>
  kind === 'edit' ? { kind, action: entry.action, subject: entry.subject, patch } : { kind, edit: entry.id };

const AUTHORS: readonly Author[] = [
  { id: 'one', name: 'One' },
  { id: 'two', name: 'Two' },
  { id: 'three', name: 'Three' },
];
const acts = fc.oneof(
  { weight: 5, arbitrary: randomSteps.map((step) => async (w: Window) => w.edit(step)) },
  {
    weight: 1,
    arbitrary: fc.constantFrom('undo' as const, 'redo' as const).map((way) => async (w: Window) => {
      w.turn(way);
    }),
  },
  { weight: 4, arbitrary: fc.boolean().map((answered) => (w: Window) => w.send(answered)) },
  { weight: 2, arbitrary: fc.constant((w: Window) => w.receive()) },
);
const plays = fc.array(fc.tuple(fc.nat({ max: 2 }), acts), { minLength: 25, maxLength: 60 });

describe('three artists on one shot of the real server', () => {
  it('end in its very bytes, with every acknowledged edit in the log, and undo to the first scene', {
    timeout: 180_000,
  }, async () => {
    let steps = 0;
    await fc.assert(
      fc.asyncProperty(plays, async (play) => {
        const id = await newShot();
        const empty = (await shotAt(id)).scene;
        const first = withPlaneList(
          empty,
          STEP_PLANES.map((plane, i) => testPlane({ id: plane, depthSpx: i * 30 })),
        );
        await send(id, 1, edit(empty, first), crypto.randomUUID(), { id: 'nobody-else', name: 'Set' });
        const windows = await Promise.all(
          AUTHORS.map(async (author) => {
            const { replica } = restored(await shotAt(id, author), author, []);
            return new Window(id, replica);
          }),
        );
        for (const [who, act] of play) await act(windows[who]!);
        for (const window of [...windows, ...windows]) await window.settle();
        const { scene, revision } = await shotAt(id);
        const log = await revisionsAfter(app.db, id, 1);
        steps += log.length;
        for (const { replica, acknowledged } of windows) {
          expect(replica.revision).toBe(revision);
          expect(sceneBytes(sceneOfReplica(replica))).toBe(sceneBytes(scene));
          const logged = new Set(log.map(({ opId }) => opId));
          expect(acknowledged.filter((opId) => !logged.has(opId))).toEqual([]);
          const { undo, redo } = await shotAt(id, replica.author);
          const stacks = stacksOfReplica(replica);
          expect([undo, redo].map((stack) => stack.map((entry) => entry.id))).toEqual(
            [stacks.undo, stacks.redo].map((stack) => stack.map((entry) => entry.id)),
          );
        }
        for (let more = true; more; ) {
          more = false;
          for (const window of windows) {
            await window.receive();
            while (window.turn('undo')) {
              more = true;
              await window.settle();
            }
          }
        }
        const undone = (await shotAt(id)).scene;
        expect(undone.order.filter((plane) => planeOf(undone, plane))).toEqual(first.order);
        expect(sceneBytes({ ...undone, order: first.order })).toBe(sceneBytes(first));
      }),
      { seed: 25, numRuns: 15 },
    );
    expect(steps).toBeGreaterThan(150);
  });
});
