import { setPlaneDepth } from '@keen-ridge/core/edits/depth';
import { renamePlane, setPlanesHidden } from '@keen-ridge/core/edits/planes';
import { restored, sceneOfReplica, withEdit } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { SignedOut } from '../api/client.ts';
import { FakeShotServer, stubBrowser, TEST_AUTHOR, testShot } from '../testing/fake-shot-server.ts';
import { type Lost, type SaveState, ShotLink } from './shot-link.ts';
import { forgetUnsent, readLeftUnsent } from './unsent.ts';

const [A, B] = [testPlaneId('a'), testPlaneId('b')];
const shot = testShot(testScene([testPlane({ id: A }), testPlane({ id: B })]));
let server: FakeShotServer;
let stored: Map<string, string>;
let states: SaveState[];
let said: (string | null)[];
let lost: Lost[];

beforeEach(() => {
  vi.useFakeTimers();
  stored = stubBrowser();
  server = new FakeShotServer(shot);
  [states, said, lost] = [[], [], []];
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function open(): ShotLink {
  const { replica } = restored(shot, TEST_AUTHOR, []);
  return new ShotLink(
    shot.id,
    replica,
    {
      onReplica: () => {},
      onSaveState: (state, why) => {
        states.push(state);
        said.push(why);
      },
      onLost: (ops) => lost.push(ops),
      onPresent: () => {},
    },
    server,
  );
}
const settle = () => vi.advanceTimersByTimeAsync(1);
function edit(link: ShotLink, step: (scene: Scene) => Scene): void {
  const scene = step(sceneOfReplica(link.replica));
  const next = withEdit(link.replica, {
    opId: crypto.randomUUID(),
    action: 'rename-plane',
    subject: 'Hill',
    scene,
    at: '2026-01-01T00:00:00.000Z',
  });
  if (next) link.push(next);
}
const name = (id: typeof A, to: string) => (scene: Scene) => renamePlane(scene, id, to);
const named = (link: ShotLink, id: typeof A) => planeOf(sceneOfReplica(link.replica), id)?.name;

describe('the link of a window to its shot', () => {
  it('sends in order, and keeps nothing once all is answered', async () => {
    const link = open();
    for (const to of ['x', 'y', 'z']) edit(link, name(A, to));
    expect(stored.size).toBe(1);
    await settle();
    expect([server.inner.revision, link.replica.revision, link.replica.pending.length]).toEqual([4, 4, 0]);
    expect([states.at(-1), stored.size]).toEqual(['saved', 0]);
  });

  it('keeps edits while the server is down and sends them when it is back', async () => {
    server.down = true;
    const link = open();
    edit(link, name(A, 'x'));
    await settle();
    edit(link, name(B, 'y'));
    await settle();
    expect(states.at(-1)).toBe('offline');
    expect(JSON.parse([...stored.values()][0]!).ops).toHaveLength(2);
    server.down = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([server.inner.revision, states.at(-1), stored.size]).toEqual([3, 'saved', 0]);
  });

  it('keeps 500 edits of an hour offline in their order, and others’ edits of that hour too', async () => {
    server.down = true;
    const link = open();
    for (let i = 1; i <= 500; i++) edit(link, name(A, `mine ${i}`));
    server.otherEdits(name(B, 'theirs'));
    await vi.advanceTimersByTimeAsync(60 * 60_000);
    expect(JSON.parse([...stored.values()][0]!).ops).toHaveLength(500);
    server.down = false;
    await vi.advanceTimersByTimeAsync(5000);
    expect([server.sent.length, server.inner.revision, link.replica.pending.length]).toEqual([500, 502, 0]);
    expect([named(link, A), named(link, B), lost.length, stored.size]).toEqual(['mine 500', 'theirs', 0, 0]);
    const names = server.inner.log.flatMap(({ entry }) =>
      entry.patch.flatMap((op) => (op.op === 'replace' ? [op.value] : [])),
    );
    expect(names.filter((value) => value !== 'theirs')).toEqual(
      Array.from({ length: 500 }, (_, i) => `mine ${i + 1}`),
    );
  });

  it('of two windows that were offline on the same plane the later loses only what the first changed', async () => {
    server.down = true;
    const [first, second] = [open(), open()];
    edit(first, name(A, 'first'));
    edit(second, name(A, 'second'));
    edit(second, (scene) => setPlanesHidden(scene, new Set([A]), true));
    await vi.advanceTimersByTimeAsync(60 * 60_000);
    server.down = false;
    await vi.advanceTimersByTimeAsync(5000);
    server.push();
    await vi.advanceTimersByTimeAsync(5000);
    expect(planeOf(server.inner.scene, A)).toMatchObject({ name: 'first', hidden: true });
    expect(lost.map(({ ops }) => ops.length)).toEqual([1]);
    for (const link of [first, second]) {
      expect(sceneOfReplica(link.replica)).toEqual(server.inner.scene);
      link.close();
    }
  });

  it('waits for who is signed out, as for a server that is away', async () => {
    const taken = server.sendOp;
    server.sendOp = async () => {
      throw new SignedOut('Sign in to go on.');
    };
    const link = open();
    edit(link, name(A, 'x'));
    await settle();
    expect([states.at(-1), link.replica.pending.length, lost.length]).toEqual(['offline', 1, 0]);
    server.sendOp = taken;
    await vi.advanceTimersByTimeAsync(3000);
    expect([states.at(-1), server.inner.revision]).toEqual(['saved', 2]);
  });

  it('does nothing twice when only the answer was lost, whether it comes by push or not', async () => {
    for (const push of [false, true]) {
      server = new FakeShotServer(shot);
      server.loseAnswers = true;
      const link = open();
      edit(link, name(A, 'x'));
      await settle();
      expect([server.inner.revision, states.at(-1)]).toEqual([2, 'offline']);
      if (push) server.push();
      server.loseAnswers = false;
      await vi.advanceTimersByTimeAsync(3000);
      expect([server.inner.revision, link.replica.revision, link.replica.pending.length]).toEqual([2, 2, 0]);
      link.close();
    }
  });

  it('takes in what others did, and lands what waits on top of it', async () => {
    server.down = true;
    const link = open();
    edit(link, name(A, 'mine'));
    server.otherEdits((scene) => setPlanesHidden(scene, new Set([A]), true));
    server.push();
    expect(planeOf(sceneOfReplica(link.replica), A)).toMatchObject({ name: 'mine', hidden: true });
    server.down = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect(planeOf(server.inner.scene, A)).toMatchObject({ name: 'mine', hidden: true });
    expect(lost).toEqual([]);
  });

  it('loses an edit to whoever was first, says who, and keeps the scene that had it', async () => {
    for (const push of [true, false]) {
      server = new FakeShotServer(shot);
      server.down = true;
      lost = [];
      const link = open();
      edit(link, name(A, 'mine'));
      edit(link, (scene) => setPlaneDepth(scene, B, { depthSpx: 70, atFrame: 1, holdPicture: false }));
      server.otherEdits(name(A, 'theirs'));
      server.down = false;
      if (push) server.push();
      await vi.advanceTimersByTimeAsync(3000);
      expect(lost).toHaveLength(1);
      expect(lost[0]).toMatchObject({ by: { author: { name: 'Ines' } }, ops: [{ kind: 'edit' }] });
      expect(planeOf(lost[0]!.scene, A)?.name).toBe('mine');
      // What did not touch the same stays.
      expect([named(link, A), planeOf(server.inner.scene, B)?.depthSpx]).toEqual(['theirs', 70]);
      expect([link.replica.pending.length, states.at(-1)]).toEqual([0, 'saved']);
      link.close();
    }
  });

  it('keeps what is done while it asks what others did', async () => {
    let answer = () => {};
    server.slow = new Promise((resolve) => {
      answer = resolve;
    });
    server.otherEdits(name(A, 'theirs'));
    const link = open();
    edit(link, name(A, 'mine'));
    await settle();
    edit(link, name(B, 'later'));
    answer();
    await vi.advanceTimersByTimeAsync(3000);
    expect([named(link, A), named(link, B), planeOf(server.inner.scene, B)?.name]).toEqual([
      'theirs',
      'later',
      'later',
    ]);
    expect(lost.map(({ ops }) => ops.length)).toEqual([1]);
  });

  it('asks for steps that it missed', async () => {
    const link = open();
    server.otherEdits(name(A, 'one'));
    server.otherEdits(name(A, 'two'));
    server.down = true;
    server.pushLast();
    await settle();
    expect(named(link, A)).toBe('a');
    server.down = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([named(link, A), link.replica.revision]).toEqual(['two', 3]);
  });

  it('reads the shot anew where its steps are forgotten, and keeps what still fits', async () => {
    server.down = true;
    const link = open();
    edit(link, name(A, 'mine'));
    edit(link, name(B, 'mine too'));
    server.otherEdits(name(A, 'theirs'));
    server.forgets = true;
    server.down = false;
    server.push();
    await vi.advanceTimersByTimeAsync(3000);
    expect([named(link, A), planeOf(server.inner.scene, B)?.name]).toEqual(['theirs', 'mine too']);
    expect(lost.map(({ ops }) => ops.length)).toEqual([1]);
  });
});

describe('an op that was taken on a revision of long ago', () => {
  it('counts as taken, and what was made on it goes on', async () => {
    server.forgets = true;
    const link = open();
    edit(link, name(A, 'x'));
    edit(link, name(A, 'y'));
    await settle();
    expect([server.inner.revision, named(link, A), link.replica.revision]).toEqual([3, 'y', 3]);
    expect([lost, link.replica.pending.length, states.at(-1)]).toEqual([[], 0, 'saved']);
  });
});

const UNSTORABLE = { status: 422, code: 'unstorable-text', detail: 'planes.0.name holds half a character' };
const INTERNAL = { status: 500, code: 'internal', detail: 'an unexpected fault' };
const FULL = { status: 503, code: 'disk-full', detail: 'The disk is full' };

describe('an edit that the server does not take', () => {
  it('is dropped at once where it never will be, with what the server said', async () => {
    server.refusing = UNSTORABLE;
    const link = open();
    edit(link, name(A, 'x'));
    await settle();
    expect(lost).toMatchObject([{ why: UNSTORABLE.detail, by: null }]);
    expect([named(link, A), stored.size, server.sent.length, states.at(-1)]).toEqual(['a', 0, 1, 'saved']);
  });

  it('is tried again on a fault of the server’s own, but not for good', async () => {
    server.refusing = INTERNAL;
    const link = open();
    edit(link, name(A, 'x'));
    await vi.advanceTimersByTimeAsync(3000);
    expect([states.at(-1), said.at(-1), named(link, A)]).toEqual(['offline', INTERNAL.detail, 'x']);
    await vi.advanceTimersByTimeAsync(60_000);
    expect([states.at(-1), named(link, A), stored.size, server.sent.length]).toEqual(['saved', 'a', 0, 5]);
    expect(lost).toMatchObject([{ why: INTERNAL.detail }]);
  });

  it('is kept as long as a disk is full and nobody gives up, and sent when it is not', async () => {
    server.refusing = FULL;
    const link = open();
    edit(link, name(A, 'x'));
    await vi.advanceTimersByTimeAsync(3000);
    expect(link.replica.pending).toHaveLength(1);
    server.refusing = null;
    await vi.advanceTimersByTimeAsync(3000);
    expect([states.at(-1), server.inner.revision, stored.size]).toEqual(['saved', 2, 0]);
  });
});

const OWN = new Set([TEST_AUTHOR.id]);

describe('what a closed window left', () => {
  it('is taken up once, whole, by the next', async () => {
    server.down = true;
    const link = open();
    edit(link, name(A, 'x'));
    edit(link, name(A, 'y'));
    await settle();
    // A window that lives keeps its own.
    expect((await readLeftUnsent(shot.id, OWN)).left).toEqual([]);
    link.close();
    await settle();
    const { left, unreadable, names } = await readLeftUnsent(shot.id, OWN);
    // It lies there until another window keeps it: a page that is left meanwhile takes nothing with it.
    expect([left.map(({ ops }) => ops.length), unreadable, stored.size]).toEqual([[2], 0, 1]);
    const again = restored(shot, TEST_AUTHOR, left[0]!.ops);
    expect(planeOf(sceneOfReplica(again.replica), A)?.name).toBe('y');
    forgetUnsent(names);
    expect(await readLeftUnsent(shot.id, OWN)).toEqual({ left: [], unreadable: 0, names: [] });
  });

  it('waits for its author, whoever opens the shot meanwhile', async () => {
    server.down = true;
    const link = open();
    edit(link, name(A, 'x'));
    link.close();
    await settle();
    expect(await readLeftUnsent(shot.id, new Set(['somebody else']))).toEqual({
      left: [],
      unreadable: 0,
      names: [],
    });
    const { left } = await readLeftUnsent(shot.id, OWN);
    expect(left.map(({ ops }) => ops.length)).toEqual([1]);
  });

  it('of an older version is counted, and does not stand in the way', async () => {
    stored.set(`keen-ridge/unsent/${shot.id}/old`, '[{"opId":"x"}]');
    stored.set(`keen-ridge/unsent/${shot.id}/cut-off`, '{"revision":1,"ops":[');
    stored.set(`keen-ridge/pending/${shot.id}`, '[]');
    const { left, unreadable, names } = await readLeftUnsent(shot.id, OWN);
    expect([left, unreadable]).toEqual([[], 3]);
    forgetUnsent(names);
    expect(stored.size).toBe(0);
  });
});
