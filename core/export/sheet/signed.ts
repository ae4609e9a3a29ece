/** A number for paper, with a minus that is one, and none before nought. */
export const signed = (value: number, decimals: number): string =>
  value
    .toFixed(decimals)
    .replace(/^-(0(?:\.0*)?)$/, '$1')
    .replace('-', '−');
