import { type RefObject, useEffect, useState } from 'react';

export interface ElementSize {
  readonly width: number;
  readonly height: number;
}

/** CSS px of an element's inside, followed as it changes. */
export function useElementSize(element: RefObject<HTMLElement | null>): ElementSize {
  const [size, setSize] = useState<ElementSize>({ width: 0, height: 0 });
  useEffect(() => {
    const watched = element.current;
    if (!watched) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: watched.clientWidth, height: watched.clientHeight }),
    );
    observer.observe(watched);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
