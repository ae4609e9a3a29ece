import { setCamera } from '@keen-ridge/core/edits/keys';
import { deletePlanes, setPlaneTransform } from '@keen-ridge/core/edits/planes';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import { restored } from '@keen-ridge/core/history';
import { LIMITS, type Scene } from '@keen-ridge/core/scene';
import { planesOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { channelId } from '@keen-ridge/core/staging';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeShotServer, stubBrowser, TEST_AUTHOR, testShot } from '../testing/fake-shot-server.ts';
import { Session } from './session.ts';

const sky = testPlaneId('sky');
let session: Session;
let server: FakeShotServer;

beforeEach(() => {
  stubBrowser();
  const shot = testShot(testScene([testPlane({ id: sky })]));
  server = new FakeShotServer(shot);
  session = new Session({ shot, ...restored(shot, TEST_AUTHOR, []) }, server);
});
afterEach(async () => {
  await vi.waitFor(() => expect(session.unsent).toBe(0));
  session.close();
  vi.unstubAllGlobals();
});

const lengthen = (frames: number) =>
  session.commit('set-length', 'the shot', setShotLength(session.state.scene, frames));

describe('an editing session', () => {
  it('shows a gesture without keeping it', () => {
    const gesture = session.begin('set-length', 'the shot');
    gesture.update((scene) => setShotLength(scene, 200));
    expect([session.shown.lengthFrames, session.state.scene.lengthFrames, session.state.undo.length]).toEqual(
      [200, 120, 0],
    );
    gesture.drop();
    expect([session.shown.lengthFrames, session.state.preview]).toEqual([120, null]);
  });

  it('keeps what a gesture showed last as one edit', () => {
    const gesture = session.begin('set-length', 'the shot');
    for (const frames of [150, 180, 200]) gesture.update((scene) => setShotLength(scene, frames));
    gesture.keep();
    expect([session.state.scene.lengthFrames, session.state.preview]).toEqual([200, null]);
    expect(session.state.undo.map(({ action }) => action)).toEqual(['set-length']);
  });

  it('makes every step of a gesture of the scene that it began on', () => {
    const gesture = session.begin('place-plane', 'sky');
    const by = (xSpx: number) =>
      gesture.update((scene) =>
        setPlaneTransform(scene, sky, { xSpx: planesOf(scene)[0]!.transform.xSpx + xSpx }),
      );
    by(5);
    by(7);
    gesture.keep();
    expect(planesOf(session.state.scene)[0]?.transform.xSpx).toBe(7);
  });

  it('makes no edit of a gesture that ends where it began', async () => {
    const gesture = session.begin('set-length', 'the shot');
    gesture.update((scene) => setShotLength(scene, 200));
    gesture.update((scene) => setShotLength(scene, 120));
    gesture.keep();
    await vi.waitFor(() => expect(session.state.preview).toBeNull());
    expect([session.state.undo.length, server.sent]).toEqual([0, []]);
  });

  it('drops a gesture, and tells it, when another begins, something is kept, undone, or the shot is left', () => {
    lengthen(150);
    const ends: (() => void)[] = [
      () => session.begin('set-length', 'another').drop(),
      () => void session.undo(),
      () => lengthen(160),
      () => session.close(),
    ];
    for (const end of ends) {
      const dropped = vi.fn();
      const gesture = session.begin('place-plane', 'sky', dropped);
      gesture.update((scene) => setPlaneTransform(scene, sky, { xSpx: 5 }));
      end();
      expect([dropped.mock.calls.length, session.state.preview]).toEqual([1, null]);
      gesture.update((scene) => setPlaneTransform(scene, sky, { xSpx: 6 }));
      gesture.keep();
      expect([session.state.preview, planesOf(session.state.scene)[0]?.transform.xSpx]).toEqual([null, 0]);
    }
  });

  it('gives up what is under way before anything is undone', () => {
    lengthen(150);
    session.begin('place-plane', 'sky').update((scene) => setPlaneTransform(scene, sky, { xSpx: 5 }));
    expect([session.undo(), session.state.scene.lengthFrames]).toEqual([null, 150]);
    session.undo();
    expect(session.state.scene.lengthFrames).toBe(120);
  });

  it('takes back the very edit that is named, whatever was done since', () => {
    const id = lengthen(150);
    session.commit('place-plane', 'sky', setPlaneTransform(session.state.scene, sky, { xSpx: 5 }));
    expect(session.undo(id!)?.action).toBe('set-length');
    expect([session.state.scene.lengthFrames, planesOf(session.state.scene)[0]?.transform.xSpx]).toEqual([
      120, 5,
    ]);
    expect(session.undo(id!)).toBeNull();
    expect(session.undo()?.action).toBe('place-plane');
  });

  it('undoes and redoes, and a new edit drops what was undone', async () => {
    lengthen(200);
    lengthen(300);
    session.undo();
    expect([session.state.scene.lengthFrames, session.state.redo.length]).toEqual([200, 1]);
    session.redo();
    expect(session.state.scene.lengthFrames).toBe(300);
    session.undo();
    lengthen(50);
    expect([session.state.undo.length, session.state.redo.length]).toEqual([2, 0]);
    expect(session.redo()).toBeNull();
    await vi.waitFor(() => expect(server.sent).toEqual(['edit', 'edit', 'undo', 'redo', 'undo', 'edit']));
  });

  it('keeps the playhead and the selection on what is there', () => {
    lengthen(400);
    session.goTo(390);
    session.select([sky]);
    session.commit(
      'key-camera',
      'Zoom',
      setCamera(session.state.scene, { zoom: 2 }, { frame: 390, keying: true }),
    );
    session.selectKeys([{ channel: channelId({ on: 'camera', name: 'zoom' }), frame: 390 }]);
    session.undo();
    expect(session.state.selectedKeys).toEqual([]);
    session.undo();
    expect([session.state.frame, session.state.selection]).toEqual([120, [sky]]);
    session.redo();
    session.commit('delete-planes', 'sky', deletePlanes(session.state.scene, new Set([sky])));
    session.undo();
    session.select([sky]);
    session.redo();
    expect(session.state.selection).toEqual([]);
    session.goTo(-5);
    expect(session.state.frame).toBe(1);
  });
});

describe('what others do meanwhile', () => {
  const moved = () => setPlaneTransform(session.state.scene, sky, { xSpx: 5 });
  const theirs = (part: (scene: Scene) => Scene) => {
    server.otherEdits(part);
    server.push();
  };

  it('is seen at once, without a notice', () => {
    theirs((scene) => setShotLength(scene, 77));
    expect([session.state.scene.lengthFrames, session.state.lost, session.state.undo]).toEqual([77, [], []]);
  });

  const begin = () => {
    const gesture = session.begin('place-plane', 'sky');
    const to = (xSpx: number) => gesture.update((scene) => setPlaneTransform(scene, sky, { xSpx }));
    return { ...gesture, to };
  };

  it('stays beneath a gesture that was begun before it', async () => {
    const gesture = begin();
    gesture.to(5);
    theirs((scene) => setShotLength(scene, 77));
    expect([session.shown.lengthFrames, planesOf(session.shown)[0]?.transform.xSpx]).toEqual([77, 5]);
    gesture.to(8);
    expect([session.shown.lengthFrames, planesOf(session.shown)[0]?.transform.xSpx]).toEqual([77, 8]);
    theirs((scene) => setCamera(scene, { roll: 3 }, { frame: 1, keying: false }));
    gesture.keep();
    await vi.waitFor(() => expect(session.unsent).toBe(0));
    expect(server.inner.scene).toMatchObject({ lengthFrames: 77, camera: { roll: { value: 3 } } });
    expect(planesOf(server.inner.scene)[0]?.transform.xSpx).toBe(8);
  });

  it('drops a gesture that is about the same, and says so', () => {
    const gesture = begin();
    gesture.to(5);
    theirs((scene) => setPlaneTransform(scene, sky, { xSpx: -9 }));
    expect([session.state.preview, session.faults.getState().last?.kind]).toEqual([null, 'met']);
    gesture.to(6);
    gesture.keep();
    expect([session.state.undo, planesOf(session.state.scene)[0]?.transform.xSpx]).toEqual([[], -9]);
  });

  it('stands in the way of undoing what it changed', () => {
    session.commit('place-plane', 'sky', moved());
    server.push();
    return vi
      .waitFor(() => expect(session.unsent).toBe(0))
      .then(() => {
        theirs((scene) => setPlaneTransform(scene, sky, { xSpx: -9 }));
        expect(session.undo()).toBeNull();
        expect(session.faults.getState().last).toMatchObject({ kind: 'taken-over', turn: 'undo' });
        expect(planesOf(session.state.scene)[0]?.transform.xSpx).toBe(-9);
      });
  });
});

describe('what an earlier window left', () => {
  it('is kept under its own name before it goes from where it lay', async () => {
    const stored = stubBrowser(new Map([['left', 'x']]));
    const shot = testShot(testScene([testPlane({ id: sky })]));
    const there = new FakeShotServer(shot);
    there.down = true;
    const first = new Session({ shot, ...restored(shot, TEST_AUTHOR, []) }, there);
    first.commit('set-length', 'the shot', setShotLength(first.state.scene, 33));
    const [op] = JSON.parse([...stored].find(([name]) => name !== 'left')![1]).ops;
    first.close();
    stored.clear();
    stored.set('left', 'x');
    const next = new Session({ shot, ...restored(shot, TEST_AUTHOR, [op]), names: ['left'] }, there);
    expect(next.state.scene.lengthFrames).toBe(33);
    expect([stored.has('left'), stored.size]).toEqual([false, 1]);
    next.close();
  });
});

describe('what is only tried', () => {
  const rock = { way: 'across', size: 0.1, periodSeconds: 2 } as const;

  it('rocks until the camera is moved, and leaves no edit', () => {
    session.setRock(rock);
    session.swayed.setState({ pose: { xSpx: 1, ySpx: 2, zSpx: 3, zoom: 1, rollDeg: 0 } });
    session.commit('place-plane', 'sky', setPlaneTransform(session.state.scene, sky, { xSpx: 5 }));
    expect(session.state.rock).toBe(rock);
    const gesture = session.begin('key-camera', 'Pan');
    gesture.update((scene) => setCamera(scene, { panX: 9 }, { frame: 1, keying: true }));
    expect([session.state.rock, session.swayed.getState().pose]).toEqual([null, null]);
    gesture.drop();
    session.setRock(rock);
    session.setPlaying(true);
    expect(session.state.rock).toBeNull();
    expect(session.state.undo.map(({ action }) => action)).toEqual(['place-plane']);
  });

  it('forgets the figure and the measuring of a plane that is gone', () => {
    session.setFigure({ planeId: sky, feet: { x: 0, y: 0 } });
    session.setMeasuring({ planeId: sky, first: null });
    session.commit('delete-planes', 'sky', deletePlanes(session.state.scene, new Set([sky])));
    session.undo();
    session.redo();
    expect([session.state.figure, session.state.measuring]).toEqual([null, null]);
  });

  it('refuses what would put a plane behind the camera, and changes nothing', () => {
    const [plane] = planesOf(session.state.scene);
    const behind = withPlaneList(session.state.scene, [{ ...plane!, depthSpx: -5000 }]);
    const gesture = session.begin('set-depth', 'sky');
    gesture.update(() => behind);
    gesture.keep();
    expect(session.faults.getState().last?.kind).toBe('unstageable');
    expect(planesOf(session.state.scene)[0]?.depthSpx).toBe(0);
    expect([session.state.preview, session.state.undo.length, server.sent]).toEqual([null, 0, []]);
  });

  it('refuses what no shot can hold, before it is sent and told as lost', () => {
    const { scene } = session.state;
    const past = { frame: LIMITS.keyFrame.max + 1, keying: true };
    expect(session.commit('key-camera', 'Pan', setCamera(scene, { panX: 9 }, past))).toBeNull();
    const { last } = session.faults.getState();
    expect(last).toMatchObject({ kind: 'no-scene', why: expect.stringContaining('camera.panX.keys') });
    expect(session.state.scene).toBe(scene);
    expect([session.state.undo.length, server.sent, session.state.lost]).toEqual([0, [], []]);
  });
});
