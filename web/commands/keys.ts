import { commandsWords as say } from '../words/commands.ts'; /** A chord as commands name it: `Ctrl+Shift+Z`, `Alt+ArrowLeft`, `Space`, `?`. Ctrl means Cmd as well. */
export type Chord = string;

export interface KeyPress {
  readonly key: string;
  readonly shiftKey: boolean;
  readonly altKey: boolean;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
}

interface ParsedChord {
  readonly key: string;
  readonly ctrl: boolean;
  readonly alt: boolean;
  readonly shift: boolean;
}

/** The last part is the key; `+` itself is written as it is. */
function parsed(chord: Chord): ParsedChord {
  const parts = chord === '+' ? ['+'] : chord.split(/\+(?!$)/);
  const key = parts.at(-1) ?? '';
  return {
    key: key === 'Space' ? ' ' : key.toLowerCase(),
    ctrl: parts.includes('Ctrl'),
    alt: parts.includes('Alt'),
    shift: parts.includes('Shift'),
  };
}

/** Signs are named as they are printed: whether Shift was needed for them depends on the keyboard. */
const isSign = (key: string): boolean =>
  key.length === 1 && key !== ' ' && key.toLowerCase() === key.toUpperCase();

/** Whether a key was pressed that a chord names. */
export function matches(chord: Chord, press: KeyPress): boolean {
  const { key, ctrl, alt, shift } = parsed(chord);
  return (
    press.key.toLowerCase() === key &&
    (press.ctrlKey || press.metaKey) === ctrl &&
    press.altKey === alt &&
    (isSign(key) || press.shiftKey === shift)
  );
}

const WORDS: Readonly<Record<string, string>> = {
  arrowleft: '←',
  arrowright: '→',
  arrowup: '↑',
  arrowdown: '↓',
  escape: say.esc,
  delete: say.deleteIt,
  backspace: say.backspace,
  enter: say.enter,
  home: say.home,
  end: say.end,
  ' ': say.space,
};

/** A chord as it is shown: `Ctrl Shift Z`. */
export function chordWords(chord: Chord): string {
  const { key, ctrl, alt, shift } = parsed(chord);
  const word = WORDS[key] ?? (key.length === 1 ? key.toUpperCase() : key.replace(/^f/, 'F'));
  return [ctrl && 'Ctrl', alt && 'Alt', shift && 'Shift', word].filter(Boolean).join(' ');
}
