// @vitest-environment happy-dom
import type { Me } from '@keen-ridge/core/contract/people';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, expect, it, vi } from 'vitest';
import '../testing/dom.ts';
import { SIGNED_OUT } from '../api/client.ts';
import { useMe, useSignIn } from '../api/people.ts';

afterEach(() => vi.unstubAllGlobals());

const ADA = {
  signIn: true,
  person: { id: '4f9c3c5e-6f0a-4a57-9b52-0d9f4b9f0a13', name: 'Ada', isAdministrator: false },
} satisfies Me;
const NOBODY = { signIn: true, person: null } satisfies Me;

it('an answer that nobody is signed in, sent before one has, does not sign one out', async () => {
  const asked: ((me: Me) => void)[] = [];
  vi.stubGlobal('fetch', async (path: string) =>
    Response.json(path === '/api/me/sign-in' ? ADA : await new Promise<Me>((resolve) => asked.push(resolve))),
  );
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => ({ me: useMe(), signIn: useSignIn() }), { wrapper });
  const shown = () => result.current.me.data?.person?.name ?? null;
  await vi.waitFor(() => expect(asked).toHaveLength(1));
  asked[0]!(NOBODY);
  await vi.waitFor(() => expect(result.current.me.data).toEqual(NOBODY));
  // What waits to be saved is refused once more, so it is asked again who is there.
  act(() => void window.dispatchEvent(new Event(SIGNED_OUT)));
  await vi.waitFor(() => expect(asked).toHaveLength(2));
  await act(() => result.current.signIn.mutateAsync({ name: 'Ada', password: 'x' }));
  await vi.waitFor(() => expect(shown()).toBe('Ada'));
  asked[1]!(NOBODY);
  await act(() => new Promise((resolve) => setTimeout(resolve, 50)));
  expect(shown()).toBe('Ada');
});
