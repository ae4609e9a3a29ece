import type { Present } from '@keen-ridge/core/contract/people';
import { planeOf } from '@keen-ridge/core/scene/records';
import { useEffect, useMemo } from 'react';
import { useStore } from 'zustand';
import { sayPresent } from '../api/shot.ts';
import { useAuthor } from './author.ts';
import { useSession, useSessionState } from './use-session.ts';

/** Well within the time after which a window counts as gone. */
const SAY_EVERY_MS = 20_000;
/** A choice that passes by is not worth a word. */
const SETTLED_MS = 300;

/** This window, among those of whoever has the shot open. */
const WINDOW = crypto.randomUUID();

/** Says that this window has the shot open, and which plane was chosen last, until it is left. */
export function useSaysPresent(): void {
  const { shot } = useSession();
  const plane = useSessionState((state) => state.selection.at(-1) ?? null);
  const author = useAuthor();
  useEffect(() => {
    const say = (gone: boolean) => {
      // Where it is not heard, nobody misses it for long: it is said again.
      sayPresent(shot.id, { window: WINDOW, author, plane, gone }).catch(() => undefined);
    };
    const soon = setTimeout(() => say(false), SETTLED_MS);
    const again = setInterval(() => say(false), SAY_EVERY_MS);
    const leave = () => say(true);
    window.addEventListener('pagehide', leave);
    return () => {
      clearTimeout(soon);
      clearInterval(again);
      window.removeEventListener('pagehide', leave);
    };
  }, [shot.id, author, plane]);
  useEffect(
    () => () => {
      const gone = { window: WINDOW, author: useAuthor.getState(), plane: null, gone: true };
      sayPresent(shot.id, gone).catch(() => undefined);
    },
    [shot.id],
  );
}

/** The other windows in which the shot is open. */
export function useOthers(): readonly Present[] {
  const windows = useStore(useSession().present, (state) => state.windows);
  return useMemo(() => windows.filter(({ window }) => window !== WINDOW), [windows]);
}

export interface OtherSeen {
  readonly window: string;
  readonly name: string;
  /** The plane that they have chosen, by its name here. */
  readonly plane: string | null;
}

export function useOthersSeen(): readonly OtherSeen[] {
  const others = useOthers();
  const scene = useSessionState((state) => state.scene);
  return others.map(({ window, author, plane }) => ({
    window,
    name: author.name,
    plane: plane === null ? null : (planeOf(scene, plane)?.name ?? null),
  }));
}
