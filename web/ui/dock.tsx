import { X } from 'lucide-react';
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useId,
  useMemo,
  useState,
} from 'react';
import { createPortal } from 'react-dom';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { uiWords as say } from '../words/ui.ts';
import { Button } from './button.tsx';
import { classes } from './class-names.ts';

interface DockState {
  /** The dock that is open; null: it is folded. */
  readonly open: string | null;
  readonly onOpen: (id: string | null) => void;
  readonly widthPx: number;
  readonly onWidth: (px: number) => void;
}

interface Docks extends DockState {
  /** Where the open dock's contents go. */
  readonly host: HTMLElement | null;
  readonly setHost: (host: HTMLElement | null) => void;
  /** Docks whose buttons are on the page: one that is remembered without its button takes no room. */
  readonly present: ReadonlySet<string>;
  readonly setPresent: (change: (present: ReadonlySet<string>) => ReadonlySet<string>) => void;
}

const DockContext = createContext<Docks | null>(null);

const useDocks = (): Docks => {
  const docks = useContext(DockContext);
  if (!docks) throw new Error('A dock needs a DockProvider');
  return docks;
};

/** Settings of a step that change the picture: beside it, one at a time, folded when none is open. */
export function DockProvider({
  open,
  onOpen,
  widthPx,
  onWidth,
  children,
}: DockState & { children: ReactNode }) {
  const [host, setHost] = useState<HTMLElement | null>(null);
  const [present, setPresent] = useState<ReadonlySet<string>>(new Set());
  const docks = useMemo(
    () => ({ open, onOpen, widthPx, onWidth, host, setHost, present, setPresent }),
    [open, onOpen, widthPx, onWidth, host, present],
  );
  return <DockContext value={docks}>{children}</DockContext>;
}

/** Folds the dock that this is called in. */
export const useFoldDock = (): (() => void) => {
  const { onOpen } = useDocks();
  return useCallback(() => onOpen(null), [onOpen]);
};

export const useIsDockOpen = (id: string): boolean => useDocks().open === id;

const WIDTHS = { least: 250, most: 560 } as const;
const LEAST_HEIGHT = 150;
const LEAST_PICTURE = 200;

interface DockAreaProps {
  /** The dock goes beneath what is looked at: where there is no room beside it. */
  beneath?: boolean;
  children: ReactNode;
}

/** What is looked at, and the open dock beside it; the rule between them is dragged. */
export function DockArea({ beneath = false, children }: DockAreaProps) {
  const { open, widthPx, onWidth, setHost, present } = useDocks();
  return (
    <Group orientation={beneath ? 'vertical' : 'horizontal'} className="flex min-h-0 flex-1">
      <Panel id="looked-at" minSize={LEAST_PICTURE} className="flex min-h-0 min-w-0">
        {children}
      </Panel>
      {open !== null && present.has(open) && (
        <>
          <Separator
            aria-label={beneath ? say.heightOfTheDock : say.widthOfTheDock}
            className={classes(
              "relative shrink-0 bg-rule outline-none before:absolute before:content-[''] hover:bg-ink-3 focus-visible:bg-select",
              beneath
                ? 'h-1 cursor-row-resize before:inset-x-0 before:-inset-y-2.5'
                : 'w-1 cursor-col-resize before:-inset-x-2.5 before:inset-y-0',
            )}
          />
          <Panel
            id={beneath ? 'beneath' : 'beside'}
            {...(beneath
              ? { defaultSize: '45%', minSize: LEAST_HEIGHT }
              : {
                  defaultSize: Math.min(WIDTHS.most, Math.max(WIDTHS.least, widthPx)),
                  minSize: WIDTHS.least,
                  maxSize: WIDTHS.most,
                  onResize: ({ inPixels }: { inPixels: number }) =>
                    inPixels > 0 && onWidth(Math.round(inPixels)),
                })}
            groupResizeBehavior="preserve-pixel-size"
            className="flex min-h-0 min-w-0"
          >
            <div ref={setHost} className="flex min-h-0 min-w-0 flex-1 flex-col bg-raised" />
          </Panel>
        </>
      )}
    </Group>
  );
}

interface DockProps {
  /** Remembered under this name. */
  id: string;
  label: string;
  /** What it is about is on, whether it is open or not. */
  on?: boolean;
  disabled?: boolean;
  /** In place of the label, beside a button that has the same name. */
  icon?: ReactNode;
  children: ReactNode;
}

/** A button that opens its settings in the dock, and folds them again. */
export function Dock({ id, label, on, disabled, icon, children }: DockProps) {
  const { open, onOpen, host, setPresent } = useDocks();
  const titleId = useId();
  const isOpen = open === id;
  useEffect(() => {
    setPresent((present) => new Set([...present, id]));
    return () => setPresent((present) => new Set([...present].filter((one) => one !== id)));
  }, [id, setPresent]);
  return (
    <>
      <Button
        aria-expanded={isOpen}
        className={isOpen ? 'outline-2 -outline-offset-2 outline-select' : ''}
        {...(on ? { on } : {})}
        {...(disabled ? { disabled } : {})}
        {...(icon ? { icon: true, 'aria-label': label, title: label } : {})}
        onClick={() => onOpen(isOpen ? null : id)}
      >
        {icon ?? label}
      </Button>
      {isOpen &&
        host &&
        createPortal(
          <section aria-labelledby={titleId} data-testid="dock" className="flex min-h-0 flex-1 flex-col">
            <header className="flex h-8 shrink-0 items-center border-b border-rule-light pr-1 pl-3">
              <h2 id={titleId} className="flex-1 font-semibold">
                {label.replace(/ …$/, '')}
              </h2>
              <Button tone="bare" icon aria-label={say.foldLabel(label)} onClick={() => onOpen(null)}>
                <X size={14} aria-hidden="true" />
              </Button>
            </header>
            <div className="min-h-0 flex-1 overflow-auto p-3">{children}</div>
          </section>,
          host,
        )}
    </>
  );
}
