import { type ExpressionContext, type ExpressionFault, parseExpression } from '@keen-ridge/core/units';
import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';
import { uiWords as say } from '../../words/ui.ts';
import { classes } from '../class-names.ts';
import { formatNumber } from '../format.ts';
import { useDrag } from '../pointer/drag.ts';
import { type BeginTrial, setOnce, trialDrag } from '../trial.ts';

interface NumberFieldProps {
  label: string;
  value: number | null;
  unit: string;
  /** What a typed, stepped or dragged value is tried on; a drag shows every value on its way. */
  trial?: BeginTrial<number>;
  /** In place of a trial: where a value is only set. */
  onCommit?: (value: number) => void;
  /** One arrow key or two px of a drag; Shift makes it ten times. */
  step?: number;
  decimals?: number;
  min?: number;
  max?: number;
  signed?: boolean;
  disabled?: boolean;
  context?: ExpressionContext;
  hideLabel?: boolean;
  className?: string;
}

const FAULTS: Readonly<Record<ExpressionFault, string>> = {
  empty: say.typeANumber,
  'not-a-number': say.thisIsNotANumber,
  'unknown-unit': say.thisUnitDoesNotBelong,
  'divided-by-zero': say.thisDividesByZero,
};

/** What is being typed, and what it will be set on: that which was there when the typing began. */
interface Draft {
  readonly text: string;
  readonly begin: BeginTrial<number>;
  readonly within: (value: number) => number;
  readonly context: ExpressionContext | undefined;
}

/** A number that can be typed (arithmetic and units too), stepped with the arrow keys, and dragged by its label. */
export function NumberField(props: NumberFieldProps) {
  const { value, unit, step = 1, decimals = 0, min, max, signed, disabled, context } = props;
  const id = useId();
  const box = useRef<HTMLDivElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const [fault, setFault] = useState<ExpressionFault | null>(null);
  const typing = useRef<Draft | null>(null);
  const within = (v: number) =>
    Math.min(max ?? Number.POSITIVE_INFINITY, Math.max(min ?? Number.NEGATIVE_INFINITY, v));
  const shown = value === null ? '' : formatNumber(value, decimals, signed);
  const begin = beginOf(props);

  const type = (next: Draft | null) => {
    typing.current = next;
    setDraft(next);
    if (!next) setFault(null);
  };
  /** Sets what was typed; false where it is no number. */
  const finish = (): boolean => {
    const typed = typing.current;
    if (!typed || typed.text === shown) {
      type(null);
      return true;
    }
    const read = parseExpression(typed.text, typed.context);
    if (!read.ok) {
      setFault(read.error);
      return false;
    }
    type(null);
    setOnce(typed.begin, typed.within(read.value));
    return true;
  };
  const latest = useRef(finish);
  useEffect(() => {
    latest.current = finish;
  });
  const isTyping = draft !== null;
  // A press elsewhere may choose something else: what was typed is set before that, on what it was typed for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is about whether something is typed, not what
  useEffect(() => {
    if (!isTyping) return;
    const onPress = (event: PointerEvent) => {
      if (event.target instanceof Node && box.current?.contains(event.target)) return;
      if (!latest.current()) type(null);
    };
    window.addEventListener('pointerdown', onPress, { capture: true });
    return () => window.removeEventListener('pointerdown', onPress, { capture: true });
  }, [isTyping]);

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Enter') {
      // Enter settles the number and gives the keyboard back; it must not send the form that the field stands in.
      event.preventDefault();
      if (finish()) event.currentTarget.blur();
    }
    if (event.key === 'Escape') {
      // Escape belongs to the number, not to the popover or dialog that it stands in.
      event.preventDefault();
      event.stopPropagation();
      type(null);
      event.currentTarget.blur();
    }
    if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && value !== null) {
      event.preventDefault();
      type(null);
      const by = (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 10 : 1);
      setOnce(begin, within(value + by));
    }
  };

  return (
    <div ref={box} className={classes('relative min-w-0', props.className)}>
      <DragLabel {...props} htmlFor={id} begin={begin} within={within} />
      <div
        className={classes(
          'flex h-[26px] items-center rounded-[3px] border bg-raised pr-1.5 focus-within:outline-2 focus-within:outline-select',
          fault ? 'border-fault' : 'border-rule',
          disabled && 'bg-panel! text-ink-3',
        )}
      >
        <input
          ref={input}
          id={id}
          data-typing={isTyping ? '' : undefined}
          className="num h-full w-full min-w-0 bg-transparent px-1.5 outline-none"
          inputMode="decimal"
          autoComplete="off"
          spellCheck={false}
          disabled={disabled}
          value={draft?.text ?? shown}
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-fault` : undefined}
          onFocus={(event) => event.currentTarget.select()}
          onChange={({ target }) =>
            type(
              typing.current
                ? { ...typing.current, text: target.value }
                : { text: target.value, begin, within, context },
            )
          }
          onBlur={() => {
            if (!finish()) type(null);
          }}
          onKeyDown={onKeyDown}
        />
        <span aria-hidden="true" className="num shrink-0 text-ink-3">
          {unit}
        </span>
      </div>
      {fault && (
        <p
          id={`${id}-fault`}
          role="alert"
          className="absolute left-0 top-full z-20 mt-0.5 w-max max-w-60 border border-fault bg-raised px-2 py-1 text-[12px] text-fault"
        >
          {FAULTS[fault]}
        </p>
      )}
    </div>
  );
}

/** A field without a trial sets each value as it comes. */
const beginOf = ({ trial, onCommit }: NumberFieldProps): BeginTrial<number> =>
  trial ??
  (() => {
    let last: number | null = null;
    return {
      update: (value) => {
        last = value;
      },
      keep: () => {
        if (last !== null) onCommit?.(last);
      },
      drop: () => undefined,
    };
  });

const PX_PER_STEP = 2;

interface DragLabelProps extends NumberFieldProps {
  htmlFor: string;
  begin: BeginTrial<number>;
  within: (value: number) => number;
}

function DragLabel(props: DragLabelProps) {
  const { label, value, step = 1, trial, begin, disabled, hideLabel, within } = props;
  const draggable = trial !== undefined && value !== null && !disabled;
  const drag = useDrag<HTMLLabelElement>(() => {
    if (!draggable) return null;
    return {
      ...trialDrag(begin, ({ dx, shiftKey }) =>
        within(value + Math.round(dx / PX_PER_STEP) * (shiftKey ? 10 : 1) * step),
      ),
      click: () => document.getElementById(props.htmlFor)?.focus(),
    };
  });
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the click is only kept from the field; the field has the keyboard
    <label
      htmlFor={props.htmlFor}
      className={classes(
        'mb-0.5 block touch-none truncate text-[11px] text-ink-2',
        draggable && 'cursor-ew-resize select-none hover:text-ink',
        hideLabel && 'sr-only',
      )}
      // A label gives its press to its field, which would take the focus at the end of every drag.
      onClick={(event) => draggable && event.preventDefault()}
      {...drag}
    >
      {label}
    </label>
  );
}
