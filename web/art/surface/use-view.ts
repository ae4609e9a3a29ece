import type { Point } from '@keen-ridge/core/geometry';
import { type PointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import { useElementSize } from '../../ui/use-element-size.ts';

/** How art lies in a surface: CSS px of its upper left corner, and CSS px an art px. */
export interface SurfaceView {
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

const CLOSEST = 32;
const MARGIN = 24;

export interface Surface {
  readonly ref: RefObject<HTMLDivElement | null>;
  readonly view: SurfaceView;
  readonly size: { readonly width: number; readonly height: number };
  /** Art px under a pointer. */
  readonly toArt: (event: { clientX: number; clientY: number }) => Point;
  readonly fit: () => void;
  readonly zoomTo: (scale: number) => void;
  /** Call first in each pointer handler: true while the gesture pans the view (middle button, or Space held). */
  readonly pans: (event: PointerEvent) => boolean;
}

/** A view of art that zooms about the pointer with the wheel and pans with the middle button or Space. */
export function useSurface(widthPx: number, heightPx: number): Surface {
  const ref = useRef<HTMLDivElement>(null);
  const size = useElementSize(ref);
  const [moved, setMoved] = useState<SurfaceView | null>(null);
  const space = useRef(false);
  const pan = useRef<{ x: number; y: number; from: SurfaceView } | null>(null);
  const fitted = fitView(widthPx, heightPx, size.width, size.height);
  const view = moved ?? fitted;
  const now = useRef(view);
  now.current = view;

  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    // React's wheel listeners are passive, and the page must not scroll.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const at = { x: event.clientX - box.left, y: event.clientY - box.top };
      setMoved(zoomed(now.current, now.current.scale * 1.0016 ** -event.deltaY, at));
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.code !== 'Space' || event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      space.current = event.type === 'keydown';
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    window.addEventListener('keydown', onKey);
    window.addEventListener('keyup', onKey);
    return () => {
      element.removeEventListener('wheel', onWheel);
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('keyup', onKey);
    };
  }, []);

  const pans = (event: PointerEvent): boolean => {
    if (event.type === 'pointerdown' && (event.button === 1 || space.current)) {
      event.currentTarget.setPointerCapture(event.pointerId);
      pan.current = { x: event.clientX, y: event.clientY, from: now.current };
      return true;
    }
    if (!pan.current) return false;
    const { x, y, from } = pan.current;
    setMoved({ ...from, left: from.left + event.clientX - x, top: from.top + event.clientY - y });
    if (event.type !== 'pointermove') pan.current = null;
    return true;
  };
  const toArt = ({ clientX, clientY }: { clientX: number; clientY: number }): Point => {
    const box = ref.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return {
      x: (clientX - box.left - view.left) / view.scale,
      y: (clientY - box.top - view.top) / view.scale,
    };
  };
  const zoomTo = (scale: number) => setMoved(zoomed(view, scale, { x: size.width / 2, y: size.height / 2 }));
  return { ref, view, size, toArt, fit: () => setMoved(null), zoomTo, pans };
}

function fitView(widthPx: number, heightPx: number, width: number, height: number): SurfaceView {
  const scale = Math.max(1e-4, Math.min((width - 2 * MARGIN) / widthPx, (height - 2 * MARGIN) / heightPx));
  return { scale, left: (width - widthPx * scale) / 2, top: (height - heightPx * scale) / 2 };
}

/** The view at another scale, with the point `at` (CSS px) staying where it is. */
export function zoomed(view: SurfaceView, scale: number, at: Point): SurfaceView {
  const next = Math.min(CLOSEST, Math.max(0.005, scale));
  const ratio = next / view.scale;
  return { scale: next, left: at.x - (at.x - view.left) * ratio, top: at.y - (at.y - view.top) * ratio };
}
