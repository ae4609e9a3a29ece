// @vitest-environment happy-dom
import { act, render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { startDispatcher } from '../../commands/dispatcher.ts';
import { point, press } from '../../testing/dom.ts';
import {
  arrowStep,
  type Drag,
  type DragPoint,
  type DragSettings,
  dragIsOn,
  underWay,
  useDrag,
} from './drag.ts';

const log: string[] = [];
const drag: Drag = {
  move: ({ dx, dy, shiftKey }: DragPoint) => log.push(`move ${dx},${dy}${shiftKey ? ' shift' : ''}`),
  keep: () => log.push('keep'),
  click: () => log.push('click'),
  drop: () => log.push('drop'),
};
function Thing({ settings }: { settings?: DragSettings }) {
  const handlers = useDrag<HTMLDivElement>(() => drag, settings);
  return <div data-testid="thing" {...handlers} />;
}
const mount = (settings?: DragSettings) => {
  const { unmount } = render(<Thing {...(settings ? { settings } : {})} />);
  return { thing: screen.getByTestId('thing'), unmount };
};

beforeEach(() => {
  log.length = 0;
});

describe('a drag', () => {
  it('is a click while it stays within the slack', () => {
    const { thing } = mount();
    point(thing, 'pointerdown', { x: 10, y: 10 });
    point(window, 'pointermove', { x: 11, y: 11 });
    point(window, 'pointerup', { x: 11, y: 11 });
    expect(log).toEqual(['click']);
  });

  it('follows the pointer on the window, and keeps where it is let go', () => {
    const { thing } = mount();
    point(thing, 'pointerdown', { x: 10, y: 10 });
    point(window, 'pointermove', { x: 30, y: 10 });
    point(window, 'pointerup', { x: 35, y: 15 });
    point(window, 'pointermove', { x: 99, y: 99 });
    expect(log).toEqual(['move 20,0', 'move 25,5', 'keep']);
  });

  it('begins with the press where it has no slack', () => {
    const { thing } = mount({ slackPx: 0 });
    point(thing, 'pointerdown', { x: 10, y: 10 });
    point(window, 'pointerup', { x: 10, y: 10 });
    expect(log).toEqual(['move 0,0', 'move 0,0', 'keep']);
  });

  const ends: readonly (readonly [string, (unmount: () => void) => void])[] = [
    ['Escape', () => press(document.body, 'Escape')],
    ['undo', () => press(document.body, 'z', { ctrlKey: true })],
    ['a pointer that is cancelled', () => point(window, 'pointercancel')],
    ['a release that was never heard of', () => point(window, 'pointermove', { x: 50, buttons: 0 })],
    ['a window that loses the focus', () => window.dispatchEvent(new Event('blur'))],
    ['another press', () => point(screen.getByTestId('thing'), 'pointerdown', { pointerId: 2 })],
    ['its element going', (unmount) => act(unmount)],
  ];
  it.each(ends)('is dropped by %s', (_, end) => {
    const stop = startDispatcher();
    const { thing, unmount } = mount();
    point(thing, 'pointerdown', { x: 10 });
    point(window, 'pointermove', { x: 30 });
    end(unmount);
    point(window, 'pointermove', { x: 60 });
    point(window, 'pointerup', { x: 60 });
    expect(log.slice(0, 2)).toEqual(['move 20,0', 'drop']);
    expect(log).not.toContain('keep');
    stop();
  });

  it('leaves the keys that mean something else alone, and bends with its modifiers', () => {
    const stop = startDispatcher();
    const heard = vi.fn();
    document.body.addEventListener('keydown', heard);
    const { thing } = mount();
    point(thing, 'pointerdown', { x: 10 });
    point(window, 'pointermove', { x: 30 });
    press(document.body, 'Delete');
    press(document.body, 'Shift', { shiftKey: true });
    expect([heard.mock.calls.length, log]).toEqual([0, ['move 20,0', 'move 20,0 shift']]);
    document.body.removeEventListener('keydown', heard);
    stop();
  });

  it('does not hear of other pointers', () => {
    const { thing } = mount();
    point(thing, 'pointerdown', { x: 10 });
    point(window, 'pointermove', { x: 40, pointerId: 7 });
    point(window, 'pointerup', { x: 40, pointerId: 7 });
    expect([log, dragIsOn()]).toEqual([[], true]);
  });

  it('gives up what is under way without a pointer, too', () => {
    const drop = vi.fn();
    const end = underWay(drop);
    const stop = startDispatcher();
    press(document.body, 'Escape');
    expect([drop.mock.calls.length, dragIsOn()]).toEqual([1, false]);
    end();
    stop();
  });
});

describe('an arrow key', () => {
  const keys = { shiftKey: false, altKey: false, ctrlKey: false, metaKey: false };
  it('is a step, with Shift ten; with Alt or Ctrl it means something else', () => {
    expect(arrowStep({ key: 'ArrowUp', ...keys })).toEqual({ x: 0, y: -1 });
    expect(arrowStep({ key: 'ArrowRight', ...keys, shiftKey: true })).toEqual({ x: 10, y: 0 });
    expect(arrowStep({ key: 'ArrowRight', ...keys, altKey: true })).toBeNull();
    expect(arrowStep({ key: 'a', ...keys })).toBeNull();
  });
});
