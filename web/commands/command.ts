import type { Chord } from './keys.ts';

/** What of the page a command is asked for: what has the focus, or what a menu was opened on. Marked `data-NAME` there. */
export const SUBJECTS = ['plane', 'key', 'shot', 'node'] as const;
export type SubjectKind = (typeof SUBJECTS)[number];
export interface Subject {
  readonly kind: SubjectKind;
  /** The value of the mark: an id, or `channel@frame` of a key. */
  readonly id: string;
}

export interface CommandContext {
  readonly subject: Subject | null;
}

/** Something that can be done. The keyboard, `?`, tooltips, menus and the finder all read it from here. */
export interface Command {
  /** Unique among those that are there at once, such as `planes.delete`. */
  readonly id: string;
  /** What it does, as a menu says it. */
  readonly words: string;
  /** The heading under which `?` lists it. */
  readonly group: string;
  readonly keys?: readonly Chord[];
  /** The keys count only while the focus is inside of `data-place` of this name; without one they do on the whole page. */
  readonly place?: string;
  /** Menus of such subjects offer it. */
  readonly on?: SubjectKind;
  readonly danger?: boolean;
  /** Only by its keys: too small a step to look for. */
  readonly keysOnly?: boolean;
  /** A key that is held does it again and again. */
  readonly repeats?: boolean;
  /** The keys count while somebody types, too. */
  readonly evenTyping?: boolean;
  /** False: it cannot be done now; its keys then mean what lies behind. */
  readonly when?: (context: CommandContext) => boolean;
  readonly run: (context: CommandContext) => void;
}

const attribute = (kind: SubjectKind) => `data-${kind}`;

/** The innermost subject that an element lies in. */
export function subjectAt(element: Element | null): Subject | null {
  const marked = element?.closest(SUBJECTS.map((kind) => `[${attribute(kind)}]`).join());
  if (!marked) return null;
  for (const kind of SUBJECTS) {
    const id = marked.getAttribute(attribute(kind));
    if (id !== null) return { kind, id };
  }
  return null;
}

export const canRun = (command: Command, context: CommandContext): boolean => command.when?.(context) ?? true;
