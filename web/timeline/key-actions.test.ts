import { setChannelLocked, setChannelValue } from '@keen-ridge/core/edits/keys';
import { setMarker } from '@keen-ridge/core/edits/shot';
import { restored } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { type ChannelRef, cameraPoseAt, channelAt, channelId, shownValueAt } from '@keen-ridge/core/staging';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { FakeShotServer, stubBrowser, TEST_AUTHOR, testShot } from '../testing/fake-shot-server.ts';
import { setOnce } from '../ui/trial.ts';

const stored = new Map<string, string>();
stubBrowser(stored);
const { Session } = await import('../session/session.ts');
const { setPreferences } = await import('../session/choices/preferences.ts');
const { readCopiedKeys } = await import('../session/choices/copied-keys.ts');
const { nextKeyFrame } = await import('../session/choices/key-selection.ts');
const actions = await import('./key-actions.ts');
const { RideRecorder } = await import('../move/ride/recorder.ts');
const { GESTURES } = await import('../move/ride/pen-gestures.ts');
const { channelTitle } = await import('../edits/channel-words.ts');

const GULL = testPlaneId('gull');
const BOAT = testPlaneId('boat');
const PAN: ChannelRef = { on: 'camera', name: 'panX' };
const ZOOM: ChannelRef = { on: 'camera', name: 'zoom' };
const FLIGHT: ChannelRef = { on: 'plane', plane: GULL, name: 'x' };
const keyed = (scene: Scene, ref: ChannelRef, ...keys: readonly (readonly [number, number])[]) =>
  keys.reduce((s, [frame, value]) => setChannelValue(s, ref, value, { frame, keying: true }), scene);
const start = keyed(
  keyed(
    testScene([testPlane({ id: GULL, name: 'Gull', depthSpx: 300 }), testPlane({ id: BOAT, name: 'Boat' })]),
    PAN,
    [1, 0],
    [20, 100],
    [50, 40],
  ),
  FLIGHT,
  [10, 0],
  [30, 90],
);

let session: InstanceType<typeof Session>;
let server: FakeShotServer;
const open = (scene: Scene) => {
  const shot = testShot(scene);
  server = new FakeShotServer(shot);
  session = new Session({ shot, ...restored(shot, TEST_AUTHOR, []) }, server);
};
beforeEach(() => {
  stored.clear();
  setPreferences({ keying: true, ride: { speed: 1, smoothSeconds: 0, tolerancePx: 0.5 } });
  open(start);
});

const choose = (ref: ChannelRef, ...frames: number[]) =>
  session.selectKeys(frames.map((frame) => ({ channel: channelId(ref), frame })));
const frames = (ref: ChannelRef) => channelAt(session.state.scene, ref)?.keys.map((key) => key.frame);
const chosen = () => session.state.selectedKeys.map((key) => key.frame);

describe('chosen keys', () => {
  it('are called by their channel, or counted', () => {
    expect(actions.keysWord(start, [{ channel: channelId(FLIGHT), frame: 10 }])).toBe('Gull Place E–W');
    const both = [PAN, FLIGHT].map((ref) => ({ channel: channelId(ref), frame: 10 }));
    expect(actions.keysWord(start, both)).toBe('2 keys');
    expect(channelTitle(start, { on: 'plane', plane: testPlaneId('gone'), name: 'rotation' })).toBe(
      'Plane Rotation',
    );
  });

  it('stay chosen where they are moved to, and never go before the first frame', () => {
    choose(PAN, 1, 20);
    actions.moveChosen(session, 5);
    expect([frames(PAN), chosen()]).toEqual([
      [6, 25, 50],
      [6, 25],
    ]);
    actions.moveChosen(session, -40);
    expect(frames(PAN)).toEqual([6, 25, 50]);
    session.undo();
    expect(frames(PAN)).toEqual([1, 20, 50]);
  });

  it('are reversed, duplicated, smoothed and rolled, each as one edit', () => {
    choose(PAN, 1, 20, 50);
    actions.reverseChosen(session);
    expect([frames(PAN), chosen()]).toEqual([
      [1, 31, 50],
      [50, 31, 1],
    ]);
    expect(shownValueAt(session.state.scene, PAN, 1)).toBe(40);
    actions.smoothChosen(session);
    choose(PAN, 31);
    actions.rollChosen(session, 100);
    expect([frames(PAN), session.state.undo.length]).toEqual([[1, 49, 50], 3]);
    for (let i = 0; i < 3; i++) session.undo();
    expect(session.state.scene).toEqual(start);
    choose(FLIGHT, 10, 30);
    actions.duplicateChosen(session);
    expect([frames(FLIGHT), chosen()]).toEqual([
      [1, 10, 30, 31, 51],
      [31, 51],
    ]);
  });

  it('are deleted, and nothing is chosen after', () => {
    choose(PAN, 20);
    actions.deleteChosen(session);
    expect([frames(PAN), session.state.selectedKeys]).toEqual([[1, 50], []]);
    actions.deleteChosen(session);
    expect(session.state.undo).toHaveLength(1);
  });
});

describe('copied keys', () => {
  it('are pasted at the playhead, onto the chosen planes, and outlive the shot', () => {
    choose(FLIGHT, 10, 30);
    actions.copyChosen(session);
    expect(readCopiedKeys()?.channels[0]).toMatchObject({ name: 'x', plane: GULL });
    open(start);
    session.goTo(40);
    session.select([BOAT]);
    actions.pasteCopied(session);
    const boat: ChannelRef = { on: 'plane', plane: BOAT, name: 'x' };
    expect([frames(boat), chosen()]).toEqual([
      [40, 60],
      [40, 60],
    ]);
    expect(shownValueAt(session.state.scene, boat, 60)).toBeCloseTo(90, 9);
  });

  it('go into another channel of their unit only', () => {
    choose(PAN, 1, 20);
    actions.copyChosen(session);
    actions.pasteCopied(session, { on: 'camera', name: 'truck' });
    expect(frames({ on: 'camera', name: 'truck' })).toEqual([1, 20]);
    const before = session.state.scene;
    actions.pasteCopied(session, ZOOM);
    expect(session.state.scene).toBe(before);
  });

  it('are none where nothing was copied, or something foreign waits', () => {
    actions.pasteCopied(session);
    expect(session.state.undo).toHaveLength(0);
    stored.set('keen-ridge/copied-keys', '{"channels":[{"on":"camera","name":"spin"}]}');
    expect(readCopiedKeys()).toBeNull();
  });
});

describe('one channel', () => {
  it('is keyed as it is by its button, and freed again', () => {
    const before = cameraPoseAt(start, 35);
    actions.toggleKey(session, PAN, 35);
    expect(frames(PAN)).toEqual([1, 20, 35, 50]);
    for (const f of [25, 35, 45])
      expect(cameraPoseAt(session.state.scene, f).xSpx).toBeCloseTo(cameraPoseAt(start, f).xSpx, 6);
    expect(cameraPoseAt(session.state.scene, 35).xSpx).toBeCloseTo(before.xSpx, 9);
    actions.toggleKey(session, PAN, 35);
    expect(frames(PAN)).toEqual([1, 20, 50]);
    expect(session.state.undo.map((entry) => entry.action)).toEqual(['key-camera', 'delete-keys']);
  });

  it('is keyed or shifted as Keying says, and left alone where it is locked', () => {
    session.goTo(20);
    setOnce(actions.valueTrial(session, PAN), 130);
    expect(shownValueAt(session.state.scene, PAN, 20)).toBe(130);
    setPreferences({ keying: false });
    setOnce(actions.valueTrial(session, PAN), 150);
    expect(channelAt(session.state.scene, PAN)?.keys.map((key) => key.value)).toEqual([20, 150, 60]);
    expect(session.state.undo.map((entry) => entry.action)).toEqual(['key-camera', 'shift-camera']);
    session.commit('lock-channel', 'Pan', setChannelLocked(session.state.scene, PAN, true));
    const locked = session.state.scene;
    setOnce(actions.valueTrial(session, PAN), 1);
    actions.toggleKey(session, PAN, 7);
    expect(session.state.scene).toBe(locked);
  });

  it('is found by the keys before and after, those of planes and markers too', () => {
    expect(nextKeyFrame(start, 1, 1)).toBe(10);
    expect(nextKeyFrame(setMarker(start, 4, ''), 1, 1)).toBe(4);
    expect(nextKeyFrame(start, 30, -1)).toBe(20);
  });
});

describe('a ride', () => {
  it('keys the chosen plane in few keys, and shows it under the pen meanwhile', () => {
    const recorder = new RideRecorder(session, { on: 'plane', plane: BOAT }, { x: 500, y: 300 });
    for (let i = 1; i <= 24; i++) {
      expect(recorder.move({ x: 500 + 10 * i, y: 300 }, i / 24)).toBe(true);
      expect([session.state.frame, session.state.preview === null]).toEqual([1 + i, false]);
    }
    recorder.end();
    const boat: ChannelRef = { on: 'plane', plane: BOAT, name: 'x' };
    expect(session.state.undo.map((entry) => entry.action)).toEqual(['ride']);
    expect(frames(boat)!.length).toBeLessThan(8);
    const screen = (frame: number) =>
      shownValueAt(session.state.scene, boat, frame) - cameraPoseAt(session.state.scene, frame).xSpx;
    // Ten px of the picture a frame, whatever the pan does meanwhile.
    for (const f of [2, 12, 25]) expect(screen(f) - screen(1)).toBeCloseTo(10 * (f - 1), 0);
    expect([session.state.frame, session.state.preview]).toEqual([1, null]);
  });

  it('ends with the shot, and leaves nothing behind when it is given up', () => {
    session.goTo(110);
    const recorder = new RideRecorder(session, { on: 'camera' }, { x: 0, y: 0 });
    expect(recorder.move({ x: 5, y: 5 }, 0.2)).toBe(true);
    expect(recorder.move({ x: 9, y: 9 }, 2)).toBe(false);
    recorder.giveUp();
    recorder.end();
    expect([session.state.scene, session.state.preview, session.state.undo]).toEqual([start, null, []]);
  });

  it('takes the gestures that ship, in order of time', () => {
    for (const { samples } of GESTURES) {
      expect(samples[0]).toEqual({ seconds: 0, x: expect.closeTo(0, 9), y: expect.closeTo(0, 9) });
      for (const [i, sample] of samples.entries())
        expect(sample.seconds).toBeGreaterThan(samples[i - 1]?.seconds ?? -1);
    }
  });
});
