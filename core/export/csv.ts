/** A cell as RFC 4180 has it; NaN is an empty one. */
const cell = (value: string | number): string =>
  typeof value === 'number'
    ? Number.isNaN(value)
      ? ''
      : String(value)
    : /[",\n\r]/.test(value)
      ? `"${value.replaceAll('"', '""')}"`
      : value;

/** A line with its end. */
export const csvLine = (cells: readonly (string | number)[]): string => `${cells.map(cell).join(',')}\r\n`;
