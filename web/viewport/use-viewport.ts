import type { Box, Point } from '@keen-ridge/core/geometry';
import { type PointerEvent, type RefObject, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { dropDrag, followDrag } from '../ui/pointer/drag.ts';
import { spaceIsHeld, spaceWasUsed } from '../ui/pointer/space-held.ts';
import type { ElementSize } from '../ui/use-element-size.ts';
import { fitAt, fittedPlace, type PictureFit, pinchedPlace, type ViewPlace, zoomedPlace } from './place.ts';
import { useWheel } from './use-wheel.ts';

const LIMITS = { least: 0.005, most: 64 };
const WHEEL_STEP = 0.0016;
const bounded = (scale: number): number => Math.min(LIMITS.most, Math.max(LIMITS.least, scale));

export interface Viewport {
  readonly fit: PictureFit;
  /** All of it is shown, as large as the room lets it be. */
  readonly fitted: boolean;
  readonly toFit: () => void;
  /** `scale` in CSS px per px of the content, about the middle of the room. */
  readonly zoomTo: (scale: number) => void;
  /** Px of the content under a pointer. */
  readonly at: (pointer: { readonly clientX: number; readonly clientY: number }) => Point;
  /** Of the room: presses of the middle button, of Space and of two fingers, before anything in it sees them. */
  readonly onPointerDownCapture: (event: PointerEvent<HTMLElement>) => void;
}

/**
 * How content lies in a room where it is looked at: fitted with a margin until it is zoomed (with the wheel at the
 * pointer, or by two fingers) or panned (with the middle button, or Space held).
 */
export function useViewport(
  room: RefObject<HTMLElement | null>,
  size: ElementSize,
  frame: { readonly widthPx: number; readonly heightPx: number },
  content: Box,
  margin: number,
): Viewport {
  const [manual, setManual] = useState<ViewPlace | null>(null);
  // The same objects while nothing of the view changes: what is drawn over the picture then need not be drawn anew.
  const place = useMemo(() => manual ?? fittedPlace(size, content, margin), [manual, size, content, margin]);
  const fit = useMemo(() => fitAt(place, size, frame), [place, size, frame]);
  const now = useRef({ place, size });
  useEffect(() => {
    now.current = { place, size };
  });
  const zoomAbout = useCallback((scale: number, about: Point) => {
    const { place: from, size: in_ } = now.current;
    const next = zoomedPlace(from, in_, bounded(scale), about);
    // The next turn of the wheel may come before this one is drawn.
    now.current = { place: next, size: in_ };
    setManual(next);
  }, []);
  useWheel(room, (event) => {
    event.preventDefault();
    const box = room.current?.getBoundingClientRect();
    const about = { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
    zoomAbout(now.current.place.scale * Math.exp(-event.deltaY * WHEEL_STEP), about);
  });
  const toFit = useCallback(() => setManual(null), []);
  const zoomTo = useCallback(
    (scale: number) => zoomAbout(scale, { x: now.current.size.width / 2, y: now.current.size.height / 2 }),
    [zoomAbout],
  );
  const pinch = usePinch(room, now, setManual);
  const pan = (event: PointerEvent<HTMLElement>) => {
    const from = now.current.place;
    followDrag(
      event.nativeEvent,
      event.currentTarget,
      {
        move: ({ dx, dy }) =>
          setManual({ scale: from.scale, x: from.x - dx / from.scale, y: from.y - dy / from.scale }),
        drop: () => setManual(manual),
      },
      { slackPx: 0, keepsFocus: true },
    );
  };
  return {
    fit,
    fitted: manual === null,
    toFit,
    zoomTo,
    at: ({ clientX, clientY }) => {
      const box = room.current?.getBoundingClientRect();
      return {
        x: (clientX - (box?.left ?? 0) - fit.left) / fit.scale,
        y: (clientY - (box?.top ?? 0) - fit.top) / fit.scale,
      };
    },
    onPointerDownCapture: (event) => {
      if (pinch(event)) {
        event.stopPropagation();
        return;
      }
      if (event.button !== 1 && !(event.button === 0 && spaceIsHeld())) return;
      event.preventDefault();
      event.stopPropagation();
      spaceWasUsed();
      pan(event);
    },
  };
}

/** Two fingers zoom and pan at once; the first one's drag is given up when the second comes. */
function usePinch(
  room: RefObject<HTMLElement | null>,
  now: RefObject<{ place: ViewPlace; size: ElementSize }>,
  onPlace: (place: ViewPlace) => void,
): (event: PointerEvent<HTMLElement>) => boolean {
  const touches = useRef(new Map<number, Point>());
  const ends = useRef<AbortController | null>(null);
  useEffect(() => () => ends.current?.abort(), []);
  return (event) => {
    if (event.pointerType !== 'touch') return false;
    const inRoom = ({ clientX, clientY }: { clientX: number; clientY: number }): Point => {
      const box = room.current?.getBoundingClientRect();
      return { x: clientX - (box?.left ?? 0), y: clientY - (box?.top ?? 0) };
    };
    const { current: fingers } = touches;
    fingers.set(event.pointerId, inRoom(event));
    if (fingers.size < 2) {
      watch();
      return false;
    }
    dropDrag();
    return true;

    function watch(): void {
      ends.current?.abort();
      const made = new AbortController();
      ends.current = made;
      const { signal } = made;
      const lift = ({ pointerId }: globalThis.PointerEvent) => {
        fingers.delete(pointerId);
        if (fingers.size === 0) made.abort();
      };
      window.addEventListener('pointerup', lift, { signal });
      window.addEventListener('pointercancel', lift, { signal });
      window.addEventListener(
        'pointermove',
        (move) => {
          if (!fingers.has(move.pointerId)) return;
          const before = [...fingers.values()];
          fingers.set(move.pointerId, inRoom(move));
          if (before.length !== 2) return;
          const { place, size } = now.current;
          const next = pinchedPlace(
            place,
            size,
            before as [Point, Point],
            [...fingers.values()] as [Point, Point],
          );
          const kept = { ...next, scale: bounded(next.scale) };
          now.current = { place: kept, size };
          onPlace(kept);
        },
        { signal },
      );
    }
  };
}
