import { type KeyboardEvent, type RefObject, useEffect, useRef } from 'react';

/** Marks what the arrow keys go between; without it an element is a tab stop of its own. */
export const ROVING = { 'data-roving': '', tabIndex: -1 } as const;

type Way = 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown';
const WAYS: readonly string[] = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] satisfies Way[];

interface Placed<E> {
  readonly item: E;
  readonly x: number;
  readonly y: number;
}

/**
 * Where an arrow leads from one item to the next, by where they lie: along its row to the next, or to the nearest of
 * the next row. Items of one row have their middles within `rowPx`. Null where nothing lies that way.
 */
export function nextItem<E>(
  items: readonly Placed<E>[],
  from: Placed<E>,
  way: string,
  rowPx: number,
): E | null {
  const best = (candidates: readonly Placed<E>[], cost: (at: Placed<E>) => number): E | null =>
    candidates.reduce<Placed<E> | null>((least, at) => (least && cost(least) <= cost(at) ? least : at), null)
      ?.item ?? null;
  const others = items.filter(({ item }) => item !== from.item);
  const inRow = ({ y }: Placed<E>) => Math.abs(y - from.y) <= rowPx;
  if (way === 'ArrowLeft' || way === 'ArrowRight') {
    const sign = way === 'ArrowLeft' ? -1 : 1;
    const along = others.filter((at) => inRow(at) && (at.x - from.x) * sign > 0);
    return best(along, (at) => Math.abs(at.x - from.x));
  }
  const sign = way === 'ArrowUp' ? -1 : 1;
  const beyond = others.filter((at) => !inRow(at) && (at.y - from.y) * sign > 0);
  const rowDistance = Math.min(...beyond.map((at) => Math.abs(at.y - from.y)));
  const row = beyond.filter((at) => Math.abs(at.y - from.y) <= rowDistance + rowPx);
  return best(row, (at) => Math.abs(at.x - from.x));
}

const ROW_PX = 6;

const placed = (item: HTMLElement | SVGElement): Placed<HTMLElement | SVGElement> => {
  const { left, top, width, height } = item.getBoundingClientRect();
  return { item, x: left + width / 2, y: top + height / 2 };
};

/**
 * One tab stop for all items of a container that are marked with `ROVING`: the one that had the focus last, or else the
 * first. Arrows go from one to the next. Call it in every draw of the container, since items come and go.
 */
export function useRoving(container: RefObject<HTMLElement | null>): {
  readonly onKeyDown: (event: KeyboardEvent) => void;
} {
  const last = useRef<Element | null>(null);
  /** What a pointer has given the focus: it has no arrows of its own, they step the frames. */
  const clicked = useRef<Element | null>(null);
  const items = () => [
    ...(container.current?.querySelectorAll<HTMLElement | SVGElement>('[data-roving]') ?? []),
  ];
  useEffect(() => {
    const room = container.current;
    if (!room) return;
    const settle = () => {
      const all = items();
      const stop = all.find((item) => item === last.current) ?? all[0];
      for (const item of all) item.setAttribute('tabindex', item === stop ? '0' : '-1');
    };
    const onFocus = (event: FocusEvent) => {
      const item = event.target instanceof Element ? event.target.closest('[data-roving]') : null;
      if (!item) return;
      last.current = item;
      settle();
    };
    const onPointer = (event: PointerEvent) => {
      clicked.current = event.target instanceof Element ? event.target.closest('[data-roving]') : null;
    };
    settle();
    room.addEventListener('focusin', onFocus);
    room.addEventListener('pointerdown', onPointer, { capture: true });
    const observer = new MutationObserver(settle);
    observer.observe(room, { childList: true, subtree: true });
    return () => {
      observer.disconnect();
      room.removeEventListener('focusin', onFocus);
      room.removeEventListener('pointerdown', onPointer, { capture: true });
    };
  });
  return {
    onKeyDown: (event) => {
      const item = event.target instanceof Element ? event.target.closest('[data-roving]') : null;
      const plain = !event.altKey && !event.ctrlKey && !event.metaKey && !event.shiftKey;
      // An arrow that opens a menu has been used.
      if (!item || item === clicked.current || !plain || event.defaultPrevented) return;
      if (!WAYS.includes(event.key)) return;
      event.preventDefault();
      const all = items().map(placed);
      const from = all.find((at) => at.item === item);
      const next = from && nextItem(all, from, event.key, ROW_PX);
      clicked.current = null;
      next?.focus();
    },
  };
}
