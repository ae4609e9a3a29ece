import { type RefObject, useEffect, useRef } from 'react';

/** Listens to the wheel over an element; React's own handlers are passive, so they could not keep the page from scrolling. */
export function useWheel(element: RefObject<HTMLElement | null>, onWheel: (event: WheelEvent) => void): void {
  const latest = useRef(onWheel);
  useEffect(() => {
    latest.current = onWheel;
  });
  useEffect(() => {
    const watched = element.current;
    if (!watched) return;
    const listen = (event: WheelEvent) => latest.current(event);
    watched.addEventListener('wheel', listen, { passive: false });
    return () => watched.removeEventListener('wheel', listen);
  }, [element]);
}
