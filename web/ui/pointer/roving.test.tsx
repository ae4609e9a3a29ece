// @vitest-environment happy-dom
import { render, screen } from '@testing-library/react';
import { useRef } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { point, press } from '../../testing/dom.ts';
import { nextItem, ROVING, useRoving } from './roving.ts';

const at = (item: string, x: number, y: number) => ({ item, x, y });
/** Two rows of keys with a gap between, and one far below. */
const KEYS = [
  at('a1', 10, 20),
  at('a2', 60, 21),
  at('a3', 200, 20),
  at('b1', 50, 50),
  at('b2', 190, 50),
  at('c1', 90, 140),
];
const from = (name: string) => KEYS.find(({ item }) => item === name)!;

describe('where an arrow leads', () => {
  it.each([
    ['a1', 'ArrowRight', 'a2'],
    ['a2', 'ArrowRight', 'a3'],
    ['a3', 'ArrowRight', null],
    ['a3', 'ArrowLeft', 'a2'],
    ['a3', 'ArrowDown', 'b2'],
    ['a1', 'ArrowDown', 'b1'],
    ['b2', 'ArrowDown', 'c1'],
    ['c1', 'ArrowUp', 'b1'],
    ['a2', 'ArrowUp', null],
  ])('%s %s → %s', (name, way, goal) => {
    expect(nextItem(KEYS, from(name), way, 6)).toBe(goal);
  });
});

function Strip({ keys }: { keys: readonly string[] }) {
  const room = useRef<HTMLDivElement>(null);
  const roving = useRoving(room);
  return (
    <div ref={room} {...roving}>
      {keys.map((key) => (
        <button key={key} type="button" {...ROVING}>
          {key}
        </button>
      ))}
    </div>
  );
}
const stops = () =>
  screen
    .getAllByRole('button')
    .filter((item) => item.tabIndex === 0)
    .map((item) => item.textContent);

describe('keys of a strip', () => {
  it('are one tab stop: the first, or the one that had the focus last', () => {
    const { rerender } = render(<Strip keys={['p', 'q', 'r']} />);
    expect(stops()).toEqual(['p']);
    screen.getByText('q').focus();
    expect(stops()).toEqual(['q']);
    rerender(<Strip keys={['p', 'r']} />);
    expect(stops()).toEqual(['p']);
  });

  it('are gone between with arrows, which nobody else gets; with Alt they are somebody else’s', () => {
    render(<Strip keys={['p', 'q']} />);
    const [p, q] = screen.getAllByRole('button');
    vi.spyOn(p!, 'getBoundingClientRect').mockReturnValue(new DOMRect(0, 0, 10, 20));
    vi.spyOn(q!, 'getBoundingClientRect').mockReturnValue(new DOMRect(50, 0, 10, 20));
    p!.focus();
    expect(press(p!, 'ArrowRight')).toBe(false);
    expect(document.activeElement).toBe(q);
    expect(press(q!, 'ArrowLeft', { altKey: true })).toBe(true);
    expect(document.activeElement).toBe(q);
    // One that was clicked leaves the arrows to others.
    point(q!, 'pointerdown');
    expect(press(q!, 'ArrowLeft')).toBe(true);
  });
});
