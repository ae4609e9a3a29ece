// @vitest-environment happy-dom
import { render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { point, press, release } from '../testing/dom.ts';
import { spaceIsHeld, spaceWasUsed } from '../ui/pointer/space-held.ts';
import type { Command } from './command.ts';
import { startDispatcher } from './dispatcher.ts';
import { chordWords, matches } from './keys.ts';
import { type Layer, useCommands } from './registry.ts';

const done: string[] = [];
const command = (id: string, key: string, more: Partial<Command> = {}): Command => ({
  id,
  words: id,
  group: 'Test',
  keys: [key],
  run: ({ subject }) => done.push(subject ? `${id} ${subject.kind} ${subject.id}` : id),
  ...more,
});
function Offer({ commands, layer = 'step' }: { commands: readonly Command[]; layer?: Layer }) {
  useCommands(layer, commands);
  return null;
}
const page = [
  command('page.delete', 'Delete'),
  command('page.undo', 'Ctrl+Z', { repeats: true }),
  command('page.play', 'Space'),
  command('page.find', 'Ctrl+K', { evenTyping: true }),
];

let stop = () => {};
beforeEach(() => {
  done.length = 0;
  stop = startDispatcher();
});
afterEach(() => stop());

describe('a key', () => {
  it('means the command of the place that has the focus, before that of the page', () => {
    const place = [command('cut.delete', 'Delete', { place: 'corners' })];
    render(
      <>
        <Offer commands={page} />
        <Offer commands={place} />
        <div data-place="corners">
          <button type="button" data-node="2">
            Corner
          </button>
        </div>
      </>,
    );
    press(screen.getByText('Corner'), 'Delete');
    press(document.body, 'Delete');
    expect(done).toEqual(['cut.delete node 2', 'page.delete']);
  });

  it('means what came last on the page, and what lay beneath once that is gone', () => {
    const room = [command('room.undo', 'Ctrl+Z')];
    const { rerender } = render(
      <>
        <Offer commands={page} />
        <Offer commands={room} />
      </>,
    );
    press(document.body, 'z', { ctrlKey: true });
    rerender(<Offer commands={page} />);
    press(document.body, 'z', { ctrlKey: true });
    expect(done).toEqual(['room.undo', 'page.undo']);
  });

  it('means what lies deeper in the page, whichever of the two came first', () => {
    const deeper = [command('part.delete', 'Delete')];
    render(
      <>
        <Offer commands={deeper} layer="part" />
        <Offer commands={page} />
      </>,
    );
    press(document.body, 'Delete');
    expect(done).toEqual(['part.delete']);
  });

  it('passes over what cannot be done now', () => {
    const never = [command('never', 'Delete', { when: () => false })];
    render(
      <>
        <Offer commands={page} />
        <Offer commands={never} />
      </>,
    );
    press(document.body, 'Delete');
    expect(done).toEqual(['page.delete']);
  });

  it('belongs to a field while somebody types, but for what says otherwise', () => {
    render(
      <>
        <Offer commands={page} />
        <input aria-label="Text" />
      </>,
    );
    const field = screen.getByLabelText('Text');
    press(field, 'Delete');
    press(field, 'z', { ctrlKey: true });
    press(field, 'k', { ctrlKey: true });
    expect(done).toEqual(['page.find']);
  });

  it('moves a slider that has the focus, and means its command elsewhere', () => {
    render(
      <>
        <Offer commands={[command('page.end', 'End'), ...page]} />
        <input type="range" aria-label="Frame" />
      </>,
    );
    press(screen.getByLabelText('Frame'), 'End');
    expect(done).toEqual([]);
    press(screen.getByLabelText('Frame'), 'Delete');
    press(document.body, 'End');
    expect(done).toEqual(['page.delete', 'page.end']);
  });

  it('does nothing behind an open dialog, in a menu, or when something has taken it', () => {
    render(
      <>
        <Offer commands={page} />
        <div role="menu">
          <button type="button" role="menuitem">
            Item
          </button>
        </div>
        <input aria-label="taker" type="checkbox" onKeyDown={(event) => event.preventDefault()} />
      </>,
    );
    press(screen.getByText('Item'), 'Delete');
    press(screen.getByLabelText('taker'), 'Delete');
    const dialog = document.body.appendChild(document.createElement('div'));
    dialog.setAttribute('data-modal', '');
    press(document.body, 'Delete');
    dialog.remove();
    expect(done).toEqual([]);
    press(document.body, 'Delete');
    expect(done).toEqual(['page.delete']);
  });

  it('repeats only where that is meant', () => {
    render(<Offer commands={page} />);
    press(document.body, 'Delete', { repeat: true });
    press(document.body, 'z', { ctrlKey: true, repeat: true });
    expect(done).toEqual(['page.undo']);
  });
});

describe('Space', () => {
  it('means its command when it is let go, unless it was held to pan', () => {
    render(<Offer commands={page} />);
    press(document.body, ' ');
    expect([spaceIsHeld(), done]).toEqual([true, []]);
    release(document.body, ' ');
    expect(done).toEqual(['page.play']);
    press(document.body, ' ');
    spaceWasUsed();
    release(document.body, ' ');
    expect(done).toEqual(['page.play']);
  });

  it('is let go when the window loses the focus', () => {
    press(document.body, ' ');
    window.dispatchEvent(new Event('blur'));
    expect(spaceIsHeld()).toBe(false);
  });

  it('presses a button that was reached by keyboard; one that was clicked gives the focus back', () => {
    render(
      <>
        <Offer commands={page} />
        <button type="button">Press</button>
      </>,
    );
    const button = screen.getByText('Press');
    button.focus();
    press(button, ' ');
    release(button, ' ');
    expect(done).toEqual([]);
    point(button, 'pointerdown');
    button.dispatchEvent(new MouseEvent('click', { bubbles: true, detail: 1 }));
    expect(document.activeElement).not.toBe(button);
  });
});

describe('a chord', () => {
  const none = { shiftKey: false, altKey: false, ctrlKey: false, metaKey: false };
  const cases: readonly (readonly [string, KeyboardEventInit & { key: string }, boolean])[] = [
    ['Ctrl+Z', { key: 'z', ctrlKey: true }, true],
    ['Ctrl+Z', { key: 'z', metaKey: true }, true],
    ['Ctrl+Z', { key: 'Z', ctrlKey: true, shiftKey: true }, false],
    ['Ctrl+Shift+Z', { key: 'Z', ctrlKey: true, shiftKey: true }, true],
    ['H', { key: 'h' }, true],
    ['H', { key: 'h', ctrlKey: true }, false],
    ['?', { key: '?', shiftKey: true }, true],
    ['?', { key: '?' }, true],
    ['+', { key: '+', shiftKey: true }, true],
    ['Space', { key: ' ' }, true],
    ['Alt+Shift+ArrowLeft', { key: 'ArrowLeft', altKey: true, shiftKey: true }, true],
    ['ArrowLeft', { key: 'ArrowLeft', altKey: true }, false],
  ];
  it.each(cases)('%s and %j', (chord, event, expected) => {
    expect(matches(chord, { ...none, ...event })).toBe(expected);
  });

  it('is shown in words', () => {
    expect(['Ctrl+Shift+Z', 'Alt+ArrowLeft', 'Space', '?', 'F2', 'Escape', 'H'].map(chordWords)).toEqual([
      'Ctrl Shift Z',
      'Alt ←',
      'Space',
      '?',
      'F2',
      'Esc',
      'H',
    ]);
  });
});
