import { fail, ok, type Result } from './result.ts';

/** What a bare or suffixed number means in the field that is being typed into. */
export interface ExpressionContext {
  /** Frames a second; lets `1.5s` stand in a field of frames. Absent: seconds are not understood. */
  readonly framesPerSecond?: number;
  /** What `100%` is worth in the field's own unit. Default 1. */
  readonly hundredPercent?: number;
}

export type ExpressionFault = 'empty' | 'not-a-number' | 'unknown-unit' | 'divided-by-zero';

/**
 * Reads a typed number: `+ - * /`, brackets, and the units `px`, `f`, `s`, `%`, `x`, `°`.
 * Returns the value in the field's own unit, or the reason it cannot be read. Never throws.
 */
export function parseExpression(
  text: string,
  context: ExpressionContext = {},
): Result<number, ExpressionFault> {
  const source = text
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00d7]/g, '*')
    .replace(/[\s,\u2009\u00a0]/g, '');
  if (source === '') return fail('empty');
  const reader = new Reader(source, context);
  const value = reader.sum();
  if (reader.fault) return fail(reader.fault);
  if (!reader.atEnd) return fail('not-a-number');
  return Number.isFinite(value) ? ok(value) : fail('divided-by-zero');
}

class Reader {
  fault: ExpressionFault | null = null;
  private at = 0;
  private readonly source: string;
  private readonly context: ExpressionContext;

  constructor(source: string, context: ExpressionContext) {
    this.source = source;
    this.context = context;
  }

  get atEnd(): boolean {
    return this.at >= this.source.length;
  }

  sum(): number {
    let value = this.product();
    for (let sign = this.take('+-'); sign; sign = this.take('+-')) {
      const term = this.product();
      value = sign === '+' ? value + term : value - term;
    }
    return value;
  }

  private product(): number {
    let value = this.signed();
    for (let sign = this.take('*/'); sign; sign = this.take('*/')) {
      const factor = this.signed();
      value = sign === '*' ? value * factor : value / factor;
    }
    return value;
  }

  private signed(): number {
    const sign = this.take('+-');
    if (sign) return sign === '-' ? -this.signed() : this.signed();
    if (this.take('(')) {
      const value = this.sum();
      if (!this.take(')')) this.fault ??= 'not-a-number';
      return value;
    }
    return this.quantity();
  }

  private quantity(): number {
    const match = /^(\d+\.?\d*|\.\d+)([a-z%°]*)/i.exec(this.source.slice(this.at));
    if (!match) {
      this.fault ??= 'not-a-number';
      return Number.NaN;
    }
    this.at += match[0].length;
    return this.inUnit(Number(match[1]), (match[2] ?? '').toLowerCase());
  }

  private inUnit(value: number, unit: string): number {
    const { framesPerSecond, hundredPercent = 1 } = this.context;
    if (unit === '%') return (value / 100) * hundredPercent;
    if (unit === 's' && framesPerSecond !== undefined) return value * framesPerSecond;
    if (unit === 'f' && framesPerSecond !== undefined) return value;
    if (unit === '' || unit === 'px' || unit === 'x' || unit === '°') return value;
    this.fault ??= 'unknown-unit';
    return Number.NaN;
  }

  private take(characters: string): string | null {
    const next = this.source[this.at];
    if (next === undefined || !characters.includes(next)) return null;
    this.at += 1;
    return next;
  }
}
