import { type ComponentProps, useId } from 'react';

interface TextFieldProps extends Omit<ComponentProps<'input'>, 'id'> {
  label: string;
  /** Told to those who do not see it, where what stands round it says it already. */
  hideLabel?: boolean;
  fault?: string | undefined;
}

export function TextField({ label, hideLabel, fault, ...rest }: TextFieldProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'mb-0.5 block text-[11px] text-ink-2'}>
        {label}
      </label>
      <input
        id={id}
        autoComplete="off"
        aria-invalid={fault !== undefined}
        aria-describedby={fault ? `${id}-fault` : undefined}
        className="h-[30px] w-full rounded-[3px] border border-rule bg-raised px-2"
        {...rest}
      />
      {fault && (
        <p id={`${id}-fault`} role="alert" className="mt-1 text-[12px] text-fault">
          {fault}
        </p>
      )}
    </div>
  );
}
