import { usePreferences } from './preferences.ts';

const DARK = '(prefers-color-scheme: dark)';

/** Whether the room is dark now: as it was chosen, or as the system has it. */
export const isDark = (): boolean => {
  const { room } = usePreferences.getState();
  return room === 'system' ? matchMedia(DARK).matches : room === 'dark';
};

/** Keeps the page in the room that is wanted; for as long as the page lives. */
export function keepRoom(): void {
  const apply = () => {
    document.documentElement.dataset.room = isDark() ? 'dark' : 'light';
  };
  apply();
  usePreferences.subscribe(apply);
  matchMedia(DARK).addEventListener('change', apply);
}

/** What `var(--color-…)` is in the room now, for what is no part of the page's own style, such as a canvas. */
export function colourInRoom(colour: string): string {
  const name = /^var\((--[\w-]+)\)$/.exec(colour)?.[1];
  return name ? getComputedStyle(document.documentElement).getPropertyValue(name).trim() : colour;
}

/** Calls when the page has changed its room; returns what ends it. */
export function onRoom(changed: () => void): () => void {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributeFilter: ['data-room'] });
  return () => observer.disconnect();
}
