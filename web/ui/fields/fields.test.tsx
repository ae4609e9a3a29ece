// @vitest-environment happy-dom
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { startDispatcher } from '../../commands/dispatcher.ts';
import { point, press } from '../../testing/dom.ts';
import type { BeginTrial } from '../trial.ts';
import { ColourField } from './colour-field.tsx';
import { NumberField } from './number-field.tsx';
import { Rename } from './rename.tsx';

/** Trials of numbers or colours, written down. */
function logged<T>() {
  const log: string[] = [];
  const trial: BeginTrial<T> = () => {
    log.push('begin');
    return {
      update: (value) => log.push(`${value}`),
      keep: () => log.push('keep'),
      drop: () => log.push('drop'),
    };
  };
  return { log, trial };
}

/** A field of a plane, and a way to choose another plane. */
function Panel({ onSet }: { onSet: (plane: string, value: number) => void }) {
  const [plane, setPlane] = useState('A');
  return (
    <>
      <NumberField label="Depth" unit="px" value={0} onCommit={(value) => onSet(plane, value)} />
      <button type="button" onPointerDown={() => setPlane('B')}>
        B
      </button>
    </>
  );
}

describe('a number that is typed', () => {
  it('is set by Enter, which gives the keyboard back', async () => {
    const { log, trial } = logged<number>();
    render(<NumberField label="Depth" unit="px" value={0} trial={trial} />);
    const field = screen.getByLabelText('Depth');
    await userEvent.type(field, '1920/2{Enter}');
    expect(log).toEqual(['begin', '960', 'keep']);
    expect(document.activeElement).not.toBe(field);
  });

  it('is given up by Escape', async () => {
    const { log, trial } = logged<number>();
    render(<NumberField label="Depth" unit="px" value={0} trial={trial} />);
    const field = screen.getByLabelText<HTMLInputElement>('Depth');
    await userEvent.type(field, '9000{Escape}');
    expect([log, field.value, document.activeElement === field]).toEqual([[], '0', false]);
  });

  it('is set on what it was typed for when something else is pressed', async () => {
    const set = vi.fn();
    render(<Panel onSet={set} />);
    await userEvent.type(screen.getByLabelText('Depth'), '40');
    await userEvent.click(screen.getByText('B'));
    expect(set.mock.calls).toEqual([['A', 40]]);
  });

  it('says what is wrong with it, and is not set', async () => {
    const { log, trial } = logged<number>();
    render(<NumberField label="Depth" unit="px" value={0} trial={trial} />);
    await userEvent.type(screen.getByLabelText('Depth'), 'far{Enter}');
    expect([screen.getByRole('alert').textContent, log]).toEqual([
      'This is not a number. Arithmetic such as 1920/2 is fine.',
      [],
    ]);
  });

  it('stays within its bounds, and steps with the arrows', async () => {
    const { log, trial } = logged<number>();
    render(<NumberField label="Share" unit="%" value={95} max={100} step={2} trial={trial} />);
    const field = screen.getByLabelText('Share');
    await userEvent.type(field, '{ArrowUp}');
    await userEvent.type(field, '{Shift>}{ArrowUp}{/Shift}');
    expect(log.filter((line) => /\d/.test(line))).toEqual(['97', '100']);
  });
});

describe('a number that is dragged by its label', () => {
  it('is tried on the way and kept once, or dropped whole by Escape', () => {
    const stop = startDispatcher();
    const { log, trial } = logged<number>();
    render(<NumberField label="Depth" unit="px" value={10} trial={trial} />);
    const label = screen.getByText('Depth');
    point(label, 'pointerdown', { x: 0 });
    point(window, 'pointermove', { x: 20 });
    point(window, 'pointerup', { x: 40 });
    expect(log.splice(0)).toEqual(['begin', '20', '30', 'keep']);
    point(label, 'pointerdown', { x: 0 });
    point(window, 'pointermove', { x: 20 });
    press(document.body, 'Escape');
    point(window, 'pointerup', { x: 40 });
    expect(log).toEqual(['begin', '20', 'drop']);
    stop();
  });
});

describe('a colour', () => {
  it('is typed with or without its sign, and Escape gives it up', async () => {
    const { log, trial } = logged<string>();
    render(<ColourField label="Tint" colour="#102030" trial={trial} />);
    const field = screen.getByLabelText<HTMLInputElement>('Tint');
    await userEvent.clear(field);
    await userEvent.type(field, 'AABBCC{Enter}');
    expect(log.splice(0)).toEqual(['begin', '#aabbcc', 'keep']);
    await userEvent.clear(field);
    await userEvent.type(field, '#ffffff{Escape}');
    expect([log, field.value]).toEqual([[], '#102030']);
  });

  it('is kept where the picker is let go, outside of it too, and dropped by Escape', async () => {
    const stop = startDispatcher();
    const { log, trial } = logged<string>();
    render(<ColourField label="Tint" colour="#102030" trial={trial} />);
    await userEvent.click(screen.getByLabelText('Pick tint'));
    const square = document.querySelector<HTMLElement>('.react-colorful__interactive')!;
    square.getBoundingClientRect = () => new DOMRect(0, 0, 100, 100);
    const mouse = (target: EventTarget, type: string, at: number) =>
      act(() => {
        const event = new MouseEvent(type, { bubbles: true, buttons: 1, clientX: at, clientY: at });
        // The page of the tests has no places of its own.
        Object.defineProperties(event, { pageX: { value: at }, pageY: { value: at } });
        target.dispatchEvent(event);
      });
    const pick = (at: number) => {
      point(square, 'pointerdown', { x: at, y: at });
      mouse(square, 'mousedown', at);
    };
    pick(20);
    mouse(window, 'mouseup', 900);
    point(window, 'pointerup', { x: 900, y: 900 });
    expect([log[0], log.at(-1)]).toEqual(['begin', 'keep']);
    log.length = 0;
    pick(60);
    press(document.body, 'Escape');
    mouse(window, 'mousemove', 80);
    point(window, 'pointerup', { x: 900, y: 900 });
    expect([log[0], log.at(-1), log.includes('keep')]).toEqual(['begin', 'drop', false]);
    stop();
  });
});

describe('a name that is changed in place', () => {
  it('is kept by Enter and given up by Escape', async () => {
    const renamed = vi.fn();
    const end = vi.fn();
    const { unmount } = render(<Rename name="Pier" label="Name" onRename={renamed} onEnd={end} />);
    await userEvent.type(screen.getByLabelText('Name'), '{Control>}a{/Control}Quay{Escape}');
    expect([renamed.mock.calls, end.mock.calls.length > 0]).toEqual([[], true]);
    unmount();
    render(<Rename name="Pier" label="Name" onRename={renamed} onEnd={end} />);
    await userEvent.clear(screen.getByLabelText('Name'));
    await userEvent.type(screen.getByLabelText('Name'), 'Quay{Enter}');
    expect(renamed.mock.calls[0]).toEqual(['Quay']);
  });
});
