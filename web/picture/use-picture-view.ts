import type { Box } from '@keen-ridge/core/geometry';
import { type PointerEvent, type RefObject, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { spaceIsHeld, spaceWasUsed } from '../ui/space-held.ts';
import type { ElementSize } from '../ui/use-element-size.ts';
import { fitAt, fittedPlace, type PictureFit, type ViewPlace, zoomedPlace } from './fit.ts';

const LIMITS = { least: 0.005, most: 64 };
const WHEEL_STEP = 0.0016;

export interface PictureView {
  readonly fit: PictureFit;
  readonly fitted: boolean;
  readonly toFit: () => void;
  /** `scale` in CSS px per output px about the middle of the room. */
  readonly zoomTo: (scale: number) => void;
  /** Takes a press over when it pans the view: the middle button, or Space held. */
  readonly startPan: (event: PointerEvent<Element>) => boolean;
  readonly pan: (event: PointerEvent<Element>) => boolean;
  readonly endPan: () => boolean;
}

/** How a box of output px lies in the room: fitted with a margin until zoomed (at the cursor) or panned. */
export function usePictureView(
  room: RefObject<HTMLElement | null>,
  size: ElementSize,
  frame: { readonly widthPx: number; readonly heightPx: number },
  content: Box,
  margin: number,
): PictureView {
  const [manual, setManual] = useState<ViewPlace | null>(null);
  // The same objects while nothing of the view changes: what is drawn over the picture then need not be drawn anew.
  const place = useMemo(() => manual ?? fittedPlace(size, content, margin), [manual, size, content, margin]);
  const fit = useMemo(() => fitAt(place, size, frame), [place, size, frame]);
  const zoomAbout = (scale: number, x: number, y: number) => {
    const next = Math.min(LIMITS.most, Math.max(LIMITS.least, scale));
    setManual(zoomedPlace(place, size, next, { x, y }));
  };
  const zoom = useRef(zoomAbout);
  const scaleNow = useRef(place.scale);
  useEffect(() => {
    zoom.current = zoomAbout;
    scaleNow.current = place.scale;
  });
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    // React's own wheel handlers are passive, so they could not keep the page from scrolling.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const factor = Math.exp(-event.deltaY * WHEEL_STEP);
      zoom.current(scaleNow.current * factor, event.clientX - box.left, event.clientY - box.top);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [room]);

  const toFit = useCallback(() => setManual(null), []);
  const { width, height } = size;
  const zoomTo = useCallback((scale: number) => zoom.current(scale, width / 2, height / 2), [width, height]);
  const drag = useRef<{ x: number; y: number; from: ViewPlace } | null>(null);
  return {
    fit,
    fitted: manual === null,
    toFit,
    zoomTo,
    startPan: (event) => {
      if (event.button !== 1 && !(event.button === 0 && spaceIsHeld())) return false;
      event.preventDefault();
      spaceWasUsed();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, y: event.clientY, from: place };
      return true;
    },
    pan: (event) => {
      const under = drag.current;
      if (!under) return false;
      const { from } = under;
      setManual({
        scale: from.scale,
        x: from.x - (event.clientX - under.x) / from.scale,
        y: from.y - (event.clientY - under.y) / from.scale,
      });
      return true;
    },
    endPan: () => {
      const panned = drag.current !== null;
      drag.current = null;
      return panned;
    },
  };
}
