// @vitest-environment happy-dom
import { restored } from '@keen-ridge/core/history';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { act, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import '../../testing/dom.ts';
import { FakeShotServer, TEST_AUTHOR, testShot } from '../../testing/fake-shot-server.ts';
import { Session } from '../session.ts';
import { SessionContext } from '../use-session.ts';
import { useCalmFrame } from './use-calm.ts';
import { useEachFrame, useRestingFrame } from './use-frame.ts';

let session: Session;
beforeEach(() => {
  vi.useFakeTimers();
  const shot = testShot(testScene([testPlane({ id: testPlaneId('sky') })]));
  session = new Session({ shot, ...restored(shot, TEST_AUTHOR, []) }, new FakeShotServer(shot));
});
afterEach(() => {
  session.close();
  vi.useRealTimers();
});

/** How often each was drawn, and what it showed. */
const drawn = { resting: 0, calm: 0, written: [] as number[] };

function Resting({ follows }: { follows: boolean }) {
  drawn.resting += 1;
  return <p data-testid="resting">{useRestingFrame(follows)}</p>;
}
function Calm() {
  drawn.calm += 1;
  return <p data-testid="calm">{useCalmFrame()}</p>;
}
function Written() {
  useEachFrame((frame) => drawn.written.push(frame));
  return null;
}

function mount(follows = false) {
  render(
    <SessionContext value={session}>
      <Resting follows={follows} />
      <Calm />
      <Written />
    </SessionContext>,
  );
  Object.assign(drawn, { resting: 0, calm: 0, written: [] });
}
/** Plays so many frames, 40 ms each. */
const play = (count: number) => {
  act(() => session.setPlaying(true));
  for (let i = 0; i < count; i++)
    act(() => {
      session.goTo(session.state.frame + 1);
      vi.advanceTimersByTime(40);
    });
};
const text = (id: string) => screen.getByTestId(id).textContent;

describe('while a shot plays', () => {
  it('what needs a still frame is not drawn, and has the last one as soon as play ends', () => {
    mount();
    play(25);
    expect([text('resting'), drawn.resting]).toEqual(['1', 1]);
    act(() => session.setPlaying(false));
    expect(text('resting')).toBe('26');
  });

  it('what follows all the same is drawn with every frame', () => {
    mount(true);
    play(25);
    expect(text('resting')).toBe('26');
    expect(drawn.resting).toBeGreaterThanOrEqual(25);
  });

  it('numbers to read change a few times a second, and stand right when play ends', () => {
    mount();
    play(25);
    // A second of 25 frames: once at its beginning and every 250 ms.
    expect(drawn.calm).toBeGreaterThanOrEqual(3);
    expect(drawn.calm).toBeLessThanOrEqual(6);
    act(() => session.setPlaying(false));
    expect(text('calm')).toBe('26');
  });

  it('what is written straight to the page gets every frame once', () => {
    mount();
    play(4);
    expect(drawn.written).toEqual([2, 3, 4, 5]);
  });
});

describe('while a shot rests', () => {
  it('everything shows another frame at once', () => {
    mount();
    act(() => session.goTo(40));
    expect([text('resting'), text('calm'), drawn.written]).toEqual(['40', '40', [40]]);
  });
});
