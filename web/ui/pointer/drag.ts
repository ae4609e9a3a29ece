import { type PointerEvent, useEffect, useRef } from 'react';
import { spaceIsHeld } from './space-held.ts';

/** Where the pointer of a drag is, and the keys that are held with it. CSS px of the window. */
export interface DragPoint {
  readonly clientX: number;
  readonly clientY: number;
  /** From where it was pressed. */
  readonly dx: number;
  readonly dy: number;
  readonly shiftKey: boolean;
  readonly altKey: boolean;
  /** Ctrl, or Cmd. */
  readonly ctrlKey: boolean;
}

/** What a press has grasped. It ends in one of three ways: let go after a move, let go where it was pressed, dropped. */
export interface Drag {
  /** The pointer has left the slack: here it is. The place where it is let go comes too. */
  readonly move?: (to: DragPoint) => void;
  /** Let go after a move: what was shown last is meant. */
  readonly keep?: () => void;
  /** Let go within the slack. */
  readonly click?: (at: DragPoint) => void;
  /** Given up, with or without a move: Escape, a lost pointer, a window without focus, a page that was left. */
  readonly drop?: () => void;
}

export interface DragSettings {
  /** Px that a press may wander and still be a click; 0 for what follows from the press on. */
  readonly slackPx?: number;
  /** Off where something else follows the same pointer. */
  readonly capture?: boolean;
  /** The press goes on to what lies in or behind it. */
  readonly passes?: boolean;
  /** What was pressed keeps the focus: rows, which have keys of their own. */
  readonly keepsFocus?: boolean;
}

export const SLACK_PX = 3;

type Press = Pick<
  globalThis.PointerEvent,
  'pointerId' | 'clientX' | 'clientY' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'
>;

interface Followed {
  readonly drop: () => void;
  readonly modifiers: (keys: Pick<KeyboardEvent, 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>) => void;
}
/** The one drag that is under way. */
let followed: Followed | null = null;

export const dragIsOn = (): boolean => followed !== null;

/** Gives up the drag that is under way, if one is. */
export const dropDrag = (): void => followed?.drop();

/** Something without a pointer that is under way, such as a replayed ride: Escape gives it up like a drag. Returns its end. */
export function underWay(drop: () => void): () => void {
  dropDrag();
  const here: Followed = {
    drop: () => {
      end();
      drop();
    },
    modifiers: () => undefined,
  };
  const end = () => {
    if (followed === here) followed = null;
  };
  followed = here;
  return end;
}

const MODIFIERS = ['Shift', 'Alt', 'Control', 'Meta'];

/** What the keyboard means while something is dragged: Escape and undo give it up, modifiers bend it, the rest waits. */
export function keyInDrag(event: KeyboardEvent): boolean {
  if (!followed) return false;
  if (MODIFIERS.includes(event.key)) followed.modifiers(event);
  else if (event.type === 'keydown') {
    const undo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
    if (event.key === 'Escape' || undo) followed.drop();
  }
  return true;
}

/**
 * Follows a pointer on the window from its press to its end, wherever the element goes that was pressed. Another press
 * gives up the one before. Returns what gives it up.
 */
export function followDrag(
  down: Press,
  target: Element | null,
  drag: Drag,
  settings: DragSettings = {},
): () => void {
  const { slackPx = SLACK_PX, capture = true, keepsFocus = false } = settings;
  dropDrag();
  let moved = false;
  let last: Press = down;
  const pointOf = (at: Press): DragPoint => ({
    clientX: at.clientX,
    clientY: at.clientY,
    dx: at.clientX - down.clientX,
    dy: at.clientY - down.clientY,
    shiftKey: at.shiftKey,
    altKey: at.altKey,
    ctrlKey: at.ctrlKey || at.metaKey,
  });
  const go = (at: Press) => {
    last = at;
    const to = pointOf(at);
    moved ||= Math.hypot(to.dx, to.dy) >= slackPx;
    if (moved) drag.move?.(to);
  };
  const ends = new AbortController();
  const { signal } = ends;
  const end = () => {
    ends.abort();
    if (followed === here) followed = null;
    if (!keepsFocus && (target instanceof HTMLElement || target instanceof SVGElement)) target.blur();
  };
  const drop = () => {
    if (signal.aborted) return;
    end();
    drag.drop?.();
  };
  const here: Followed = {
    drop,
    modifiers: ({ shiftKey, altKey, ctrlKey, metaKey }) => {
      const { pointerId, clientX, clientY } = last;
      if (moved) go({ pointerId, clientX, clientY, shiftKey, altKey, ctrlKey, metaKey });
    },
  };
  followed = here;
  const mine = (act: (event: globalThis.PointerEvent) => void) => (event: globalThis.PointerEvent) => {
    if (event.pointerId === down.pointerId) act(event);
  };
  const onMove = mine((event) => {
    // A release that never came, outside of the window for instance.
    if (event.buttons === 0) drop();
    else go(event);
  });
  const onUp = mine((event) => {
    // Where it is let go counts: on a busy machine the last move may come with the release alone.
    go(event);
    end();
    if (moved) drag.keep?.();
    else drag.click?.(pointOf(event));
  });
  window.addEventListener('pointermove', onMove, { signal });
  window.addEventListener('pointerup', onUp, { signal });
  window.addEventListener('pointercancel', mine(drop), { signal });
  window.addEventListener('blur', drop, { signal });
  if (capture) target?.setPointerCapture?.(down.pointerId);
  if (slackPx === 0) go(down);
  return drop;
}

/**
 * Handlers of something that is dragged. `grasp` says what a press with the first button takes hold of; null leaves the
 * press to what lies behind, as does Space, which pans the view.
 */
export function useDrag<E extends Element = Element>(
  grasp: (down: PointerEvent<E>) => Drag | null,
  settings: DragSettings = {},
): { readonly onPointerDown: (event: PointerEvent<E>) => void } {
  const drop = useRef<() => void>(() => {});
  useEffect(() => () => drop.current(), []);
  return {
    onPointerDown: (event) => {
      if (event.button !== 0 || spaceIsHeld()) return;
      const drag = grasp(event);
      if (!drag) return;
      if (!settings.passes) event.stopPropagation();
      drop.current = followDrag(event.nativeEvent, event.currentTarget, drag, settings);
    },
  };
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** What an arrow key without Alt or Ctrl means for something that can be dragged: one step, with Shift ten. */
export function arrowStep(event: {
  key: string;
  shiftKey: boolean;
  altKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}): { readonly x: number; readonly y: number } | null {
  const arrow = ARROWS[event.key];
  if (!arrow || event.altKey || event.ctrlKey || event.metaKey) return null;
  const often = event.shiftKey ? 10 : 1;
  return { x: arrow[0] * often, y: arrow[1] * often };
}
