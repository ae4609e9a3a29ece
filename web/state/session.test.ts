import type { Shot } from '@keen-ridge/core/contract';
import {
  channelId,
  deletePlanes,
  setCamera,
  setPlaneTransform,
  setShotLength,
} from '@keen-ridge/core/document';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Session } from './session.ts';

const sky = testPlaneId('sky');
let session: Session;
let sent: string[];

beforeEach(() => {
  sent = [];
  vi.stubGlobal('window', { addEventListener: () => {}, removeEventListener: () => {} });
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => {}, removeItem: () => {} });
  vi.stubGlobal('fetch', async (_path: string, init: { body: string }) => {
    const { op, revision } = JSON.parse(init.body);
    sent.push(op.kind);
    return new Response(JSON.stringify({ revision: revision + 1 }), { status: 200 });
  });
  const shot: Shot = {
    id: '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a11',
    name: '010',
    productionId: '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a12',
    productionName: 'Salt Lanterns',
    revision: 1,
    scene: testScene([testPlane({ id: sky })]),
    undo: [],
    redo: [],
  };
  session = new Session(shot);
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
    const longer = setShotLength(session.state.scene, 200);
    session.show(longer);
    expect([session.shown.lengthFrames, session.state.scene.lengthFrames, session.state.undo.length]).toEqual(
      [200, 120, 0],
    );
    session.show(null);
    expect(session.shown.lengthFrames).toBe(120);
  });

  it('makes no edit of a gesture that ends where it began', async () => {
    session.show(setShotLength(session.state.scene, 200));
    session.commit('set-length', 'the shot', setShotLength(session.state.scene, 120));
    await vi.waitFor(() => expect(session.state.preview).toBeNull());
    expect([session.state.undo.length, sent]).toEqual([0, []]);
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
    await vi.waitFor(() => expect(sent).toEqual(['edit', 'edit', 'undo', 'redo', 'undo', 'edit']));
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

describe('what is only tried', () => {
  const rock = { way: 'across', size: 0.1, periodSeconds: 2 } as const;

  it('rocks until the camera is moved, and leaves no edit', () => {
    session.setRock(rock);
    session.swayed.setState({ pose: { xSpx: 1, ySpx: 2, zSpx: 3, zoom: 1, rollDeg: 0 } });
    session.commit('place-plane', 'sky', setPlaneTransform(session.state.scene, sky, { xSpx: 5 }));
    expect(session.state.rock).toBe(rock);
    session.show(setCamera(session.state.scene, { panX: 9 }, { frame: 1, keying: true }));
    expect([session.state.rock, session.swayed.getState().pose]).toEqual([null, null]);
    session.show(null);
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
    const [plane] = session.state.scene.planes;
    const behind = { ...session.state.scene, planes: [{ ...plane!, depthSpx: -5000 }] };
    session.show(behind);
    session.commit('set-depth', 'sky', behind);
    expect(session.state.scene.planes[0]?.depthSpx).toBe(0);
    expect([session.state.preview, session.state.undo.length, sent]).toEqual([null, 0, []]);
  });
});
