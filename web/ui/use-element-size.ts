import { type RefObject, useLayoutEffect, useState } from 'react';

export interface ElementSize {
  readonly width: number;
  readonly height: number;
}

/** CSS px of an element's inside, followed as it changes; known before anything of it is seen. */
export function useElementSize(element: RefObject<HTMLElement | null>): ElementSize {
  const [size, setSize] = useState<ElementSize>({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const watched = element.current;
    if (!watched) return;
    const measure = () => {
      const [width, height] = [watched.clientWidth, watched.clientHeight];
      setSize((before) => (before.width === width && before.height === height ? before : { width, height }));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(watched);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
