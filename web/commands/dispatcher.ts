import { keyInDrag } from '../ui/pointer/drag.ts';
import { pressSpace, releaseSpace } from '../ui/pointer/space-held.ts';
import { type Command, type CommandContext, canRun, subjectAt } from './command.ts';
import { matches } from './keys.ts';
import { offered } from './registry.ts';

const elementOf = (target: EventTarget | null): Element | null =>
  target instanceof Element && target !== document.body ? target : null;

const TEXT =
  'input:not([type=checkbox]):not([type=radio]):not([type=range]), textarea, [contenteditable=true]';
const isTyping = (element: Element | null): boolean => element?.matches(TEXT) ?? false;

const SLIDES: ReadonlySet<string> = new Set([
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  'Home',
  'End',
  'PageUp',
  'PageDown',
]);
/** What moves a slider of the page's own is the slider's. */
const slides = (element: Element | null, { key }: KeyboardEvent): boolean =>
  SLIDES.has(key) && (element?.matches('input[type=range]') ?? false);

/** Space and Enter belong to a control that was reached by keyboard; rows have them for the shot. */
const ownsPress = (element: Element | null): boolean =>
  element?.closest('[data-row]') == null &&
  element?.closest(
    'button, a, select, summary, [role=button], [role=radio], [role=slider], [role=menuitem], [role=tab]',
  ) != null;

/** Inside a menu or an open list keys choose from it. */
const inMenu = (element: Element | null): boolean => element?.closest('[role=menu], [role=listbox]') != null;
const modal = (): Element | null => document.querySelector('[data-modal]');

/** The names of the places that the focus is in, the innermost first. */
function placesOf(element: Element | null): string[] {
  const places: string[] = [];
  for (let at = element?.closest('[data-place]'); at; at = at.parentElement?.closest('[data-place]'))
    places.push(at.getAttribute('data-place') ?? '');
  return places;
}

/** The command that a press of a key means: of the innermost place first, then of the page, the newest first. */
export function commandFor(event: KeyboardEvent): [Command, CommandContext] | null {
  const element = elementOf(event.target);
  if (event.defaultPrevented || event.isComposing || event.getModifierState?.('AltGraph') || inMenu(element))
    return null;
  if (slides(element, event)) return null;
  const typing = isTyping(element);
  const context = { subject: subjectAt(element) };
  const able = offered().filter(
    (command) =>
      command.keys?.some((chord) => matches(chord, event)) &&
      (!typing || command.evenTyping) &&
      (!event.repeat || command.repeats) &&
      canRun(command, context),
  );
  const open = modal();
  const places = placesOf(element);
  for (const place of places) {
    const command = able.find((one) => one.place === place);
    if (command) return [command, context];
  }
  // Behind an open dialog nothing happens.
  const command = open ? undefined : able.find((one) => one.place === undefined);
  return command ? [command, context] : null;
}

function onKeyDownFirst(event: KeyboardEvent): void {
  if (!keyInDrag(event)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
}

function onKeyDown(event: KeyboardEvent): void {
  const element = elementOf(event.target);
  const press = event.key === ' ' || event.key === 'Enter';
  if (press && ownsPress(element)) return;
  if (event.key === ' ' && !isTyping(element) && !event.ctrlKey && !event.altKey && !event.metaKey) {
    if (event.defaultPrevented || modal() || inMenu(element)) return;
    // Held, it pans; alone, it means its command when it is let go.
    pressSpace();
    event.preventDefault();
    return;
  }
  const found = commandFor(event);
  if (!found) return;
  event.preventDefault();
  found[0].run(found[1]);
}

function onKeyUp(event: KeyboardEvent): void {
  if (keyInDrag(event) && event.key !== ' ') return;
  if (event.key !== ' ' || !releaseSpace()) return;
  const found = commandFor(event);
  if (!found) return;
  event.preventDefault();
  found[0].run(found[1]);
}

/** A button that was clicked gives its focus back (rows keep it, for they have keys of their own), so that Space plays and does not press it again. */
function onClick(event: MouseEvent): void {
  const button = event.target instanceof Element ? event.target.closest('button') : null;
  if (event.detail > 0 && button && !button.hasAttribute('aria-haspopup') && !button.hasAttribute('data-row'))
    button.blur();
}

/** Listens to the keyboard of the whole window: nothing else does. Returns its end. */
export function startDispatcher(): () => void {
  const ends = new AbortController();
  const { signal } = ends;
  window.addEventListener('keydown', onKeyDownFirst, { capture: true, signal });
  window.addEventListener('keyup', (event) => keyInDrag(event), { capture: true, signal });
  window.addEventListener('keydown', onKeyDown, { signal });
  window.addEventListener('keyup', onKeyUp, { signal });
  // A key that is let go over another window is never heard of.
  window.addEventListener('blur', () => releaseSpace(), { signal });
  window.addEventListener('click', onClick, { signal });
  return () => ends.abort();
}
