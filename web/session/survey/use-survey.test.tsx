// @vitest-environment happy-dom
import { restored } from '@keen-ridge/core/history';
import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import '../../testing/dom.ts';
import { FakeShotServer, TEST_AUTHOR, testShot } from '../../testing/fake-shot-server.ts';
import { FakeWorker } from '../../testing/fake-worker.ts';
import { Session } from '../session.ts';
import { SessionContext } from '../use-session.ts';
import { useSurvey, useSurveyor } from './use-survey.ts';

const { begun } = FakeWorker;
let session: Session;
beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('Worker', FakeWorker);
  begun.length = 0;
  const shot = testShot(testScene([testPlane({ id: testPlaneId('sky') })]));
  session = new Session({ shot, ...restored(shot, TEST_AUTHOR, []) }, new FakeShotServer(shot));
});
afterEach(() => {
  session.close();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** The page of an open shot whose limits are known. */
function mount() {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  client.setQueryData(['survey-limits', session.shot.productionId], USUAL_LIMITS);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>
      <SessionContext value={session}>{children}</SessionContext>
    </QueryClientProvider>
  );
  return renderHook(
    () => {
      useSurveyor();
      return useSurvey();
    },
    { wrapper },
  ).result;
}
const wait = (ms: number) => act(() => vi.advanceTimersByTime(ms));
const drawWhole = () => act(() => session.drawn.setState({ frame: 1, whole: true }));
const told = () => begun.map((worker) => worker.told.map((message) => (message as { kind: string }).kind));

it('the first survey lets the first picture go before it, and those after do not wait', () => {
  mount();
  wait(2000);
  act(() => session.drawn.setState({ frame: 1, whole: false }));
  wait(300);
  expect(told()).toEqual([]);
  drawWhole();
  wait(300);
  expect(told()).toEqual([['survey']]);
  drawWhole();
  wait(300);
  expect(told()).toEqual([['survey']]);
});

it('where no picture comes it is made all the same', () => {
  mount();
  wait(3000);
  expect(told()).toEqual([['survey']]);
});

it('a worker that stops is told, and another looks at the shot', () => {
  const survey = mount();
  drawWhole();
  wait(300);
  act(() => begun[0]!.onerror?.({}));
  expect(survey.current.fault).toContain('could not be loaded');
  expect(survey.current.progress).toBeNull();
  wait(5500);
  expect(told()).toEqual([['survey'], ['survey']]);
  expect(begun.map(({ ended }) => ended)).toEqual([true, false]);
  const answer = { findings: [], ribbons: [], needs: [], bare: new Map() };
  act(() => begun[1]!.onmessage?.({ data: { kind: 'answer', id: 2, answer, tookMs: 1 } }));
  expect(survey.current).toMatchObject({ answer, fault: null, isOld: false });
});
