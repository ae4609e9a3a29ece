import { cleanup } from '@testing-library/react';
import { afterEach } from 'vitest';
import { dropDrag } from '../ui/pointer/drag.ts';

/** What tests with a page share: nothing that one of them mounts or drags outlives it. */
afterEach(() => {
  dropDrag();
  cleanup();
});

interface PointerPlace {
  readonly x?: number;
  readonly y?: number;
  readonly buttons?: number;
  readonly button?: number;
  readonly pointerId?: number;
  readonly pointerType?: string;
  readonly shiftKey?: boolean;
}

/** A pointer's event on an element or the window, as a browser would send it. */
export function point(
  target: EventTarget,
  type: 'pointerdown' | 'pointermove' | 'pointerup' | 'pointercancel',
  { x = 0, y = 0, buttons = type === 'pointerup' ? 0 : 1, ...rest }: PointerPlace = {},
): void {
  target.dispatchEvent(
    new PointerEvent(type, {
      bubbles: true,
      cancelable: true,
      pointerId: 1,
      button: 0,
      clientX: x,
      clientY: y,
      buttons,
      ...rest,
    }),
  );
}

/** A key that is pressed on an element; false where something has taken it. */
export const press = (target: EventTarget, key: string, more: KeyboardEventInit = {}): boolean =>
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

export const release = (target: EventTarget, key: string): boolean =>
  target.dispatchEvent(new KeyboardEvent('keyup', { key, bubbles: true, cancelable: true }));
