import { type ExpressionContext, type ExpressionFault, parseExpression } from '@keen-ridge/core/units';
import { type KeyboardEvent, type PointerEvent, useId, useRef, useState } from 'react';
import { classes } from '../class-names.ts';
import { formatNumber } from '../format.ts';

interface NumberFieldProps {
  label: string;
  value: number | null;
  unit: string;
  /** Called with every value of a drag; leave out where a value may only be set once. */
  onPreview?: (value: number) => void;
  onCommit: (value: number) => void;
  /** A drag or typing was given up. */
  onCancel?: () => void;
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
  empty: 'Type a number.',
  'not-a-number': 'This is not a number. Arithmetic such as 1920/2 is fine.',
  'unknown-unit': 'This unit does not belong here.',
  'divided-by-zero': 'This divides by zero.',
};

/** A number that can be typed (arithmetic and units too), stepped with the arrow keys, and dragged by its label. */
export function NumberField(props: NumberFieldProps) {
  const {
    value,
    unit,
    onCommit,
    onCancel,
    step = 1,
    decimals = 0,
    min,
    max,
    signed,
    disabled,
    context,
  } = props;
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<ExpressionFault | null>(null);
  const within = (v: number) =>
    Math.min(max ?? Number.POSITIVE_INFINITY, Math.max(min ?? Number.NEGATIVE_INFINITY, v));
  const shown = value === null ? '' : formatNumber(value, decimals, signed);

  const finish = (): boolean => {
    if (draft === null || draft === shown) {
      setDraft(null);
      setFault(null);
      return true;
    }
    const read = parseExpression(draft, context);
    if (!read.ok) {
      setFault(read.error);
      return false;
    }
    setDraft(null);
    setFault(null);
    onCommit(within(read.value));
    return true;
  };
  const giveUp = () => {
    setDraft(null);
    setFault(null);
    onCancel?.();
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    event.stopPropagation();
    if (event.key === 'Enter') {
      // Enter settles the number; it must not send the form that the field stands in.
      event.preventDefault();
      if (finish()) event.currentTarget.select();
    }
    if (event.key === 'Escape') {
      giveUp();
      event.currentTarget.blur();
    }
    if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && value !== null) {
      event.preventDefault();
      setDraft(null);
      onCommit(within(value + (event.key === 'ArrowUp' ? 1 : -1) * step * (event.shiftKey ? 10 : 1)));
    }
  };

  return (
    <div className={classes('relative min-w-0', props.className)}>
      <DragLabel {...props} htmlFor={id} within={within} />
      <div
        className={classes(
          'flex h-[26px] items-center rounded-[3px] border bg-raised pr-1.5 focus-within:outline-2 focus-within:outline-select',
          fault ? 'border-fault' : 'border-rule',
          disabled && 'opacity-50',
        )}
      >
        <input
          id={id}
          className="num w-full min-w-0 bg-transparent px-1.5 outline-none"
          inputMode="decimal"
          autoComplete="off"
          spellCheck={false}
          disabled={disabled}
          value={draft ?? shown}
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-fault` : undefined}
          onFocus={(event) => event.currentTarget.select()}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={() => {
            if (!finish()) giveUp();
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

const PX_PER_STEP = 2;

function DragLabel(props: NumberFieldProps & { htmlFor: string; within: (value: number) => number }) {
  const { label, value, step = 1, onPreview, onCommit, onCancel, disabled, hideLabel, within } = props;
  const drag = useRef<{ x: number; from: number; now: number } | null>(null);
  const draggable = onPreview !== undefined && value !== null && !disabled;
  const onPointerDown = (event: PointerEvent<HTMLLabelElement>) => {
    if (!draggable || event.button !== 0) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, from: value, now: value };
  };
  const onPointerMove = (event: PointerEvent<HTMLLabelElement>) => {
    if (!drag.current) return;
    const steps = Math.round((event.clientX - drag.current.x) / PX_PER_STEP) * (event.shiftKey ? 10 : 1);
    drag.current.now = within(drag.current.from + steps * step);
    onPreview?.(drag.current.now);
  };
  const onPointerUp = () => {
    const ended = drag.current;
    drag.current = null;
    if (ended && ended.now !== ended.from) onCommit(ended.now);
    else if (ended) onCancel?.();
  };
  return (
    <label
      htmlFor={props.htmlFor}
      className={classes(
        'mb-0.5 block touch-none truncate text-[11px] text-ink-2',
        draggable && 'cursor-ew-resize select-none hover:text-ink',
        hideLabel && 'sr-only',
      )}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={onPointerUp}
    >
      {label}
    </label>
  );
}
