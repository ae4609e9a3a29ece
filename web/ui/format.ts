const formats = new Map<number, Intl.NumberFormat>();

/** Made once for each number of places: making one costs more than all that it then formats in a drag. */
function formatOf(decimals: number): Intl.NumberFormat {
  const there = formats.get(decimals);
  if (there) return there;
  const made = new Intl.NumberFormat('en-GB', { maximumFractionDigits: decimals });
  formats.set(decimals, made);
  return made;
}

/** `−1,234.5`: true minus, thousands grouped, at most `decimals` places. With `signed`, a plus too. */
export function formatNumber(value: number, decimals = 0, signed = false): string {
  const rounded = Math.abs(value) < 0.5 * 10 ** -decimals ? 0 : value;
  const digits = formatOf(decimals).format(Math.abs(rounded));
  const sign = rounded < 0 ? '\u2212' : signed && rounded > 0 ? '+' : '';
  return sign + digits;
}

/** `5.00 s`. */
export const formatSeconds = (seconds: number): string =>
  `${seconds.toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 })} s`;

/** `8.4 MB`. */
export function formatBytes(bytes: number): string {
  if (bytes < 1e6) return `${formatNumber(bytes / 1e3, 0)} kB`;
  return `${formatNumber(bytes / 1e6, 1)} MB`;
}

/** `1 plane`, `12 planes`: a count with its word. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${formatNumber(count)} ${count === 1 ? one : many}`;

const when = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});

/** `26 Nov, 14:05`, in the time of this machine; empty where there is no time. */
export const formatWhen = (iso: string): string => (iso === '' ? '' : when.format(new Date(iso)));
