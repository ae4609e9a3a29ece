import { type RefObject, useEffect, useState } from 'react';

/** What of a tall content is seen or about to be seen: CSS px from its top, `[from, to)`. */
export interface SeenBand {
  readonly from: number;
  readonly to: number;
}

/** The band moves by steps of this many CSS px, so that not every px of a scroll draws anew. */
const STEP = 200;

/** The band of a scrolled content: one height of its room above and below what is seen. Steps of 200 px. */
export function bandAt(scrollTop: number, height: number): SeenBand {
  const from = Math.floor((scrollTop - height) / STEP) * STEP;
  return { from, to: Math.ceil((scrollTop + 2 * height) / STEP) * STEP };
}

/** Follows what an element shows of its content. For lists whose rows lie one under the other there is a virtual list. */
export function useSeenBand(room: RefObject<HTMLElement | null>): SeenBand {
  const [band, setBand] = useState<SeenBand>({ from: 0, to: 0 });
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const look = () => {
      const next = bandAt(element.scrollTop, element.clientHeight);
      setBand((was) => (was.from === next.from && was.to === next.to ? was : next));
    };
    look();
    const observer = new ResizeObserver(look);
    observer.observe(element);
    element.addEventListener('scroll', look, { passive: true });
    return () => {
      observer.disconnect();
      element.removeEventListener('scroll', look);
    };
  }, [room]);
  return band;
}
