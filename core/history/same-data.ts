type Data = Record<string, unknown>;

/** A record as JSON has it: neither null nor a list. */
export const isRecord = (value: unknown): value is Data =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Names of the fields that have a value: JSON knows no `undefined`. */
export const fieldsOf = (record: Data): string[] =>
  Object.keys(record).filter((name) => record[name] !== undefined);

/** Whether two values are the same as JSON. */
export function sameData(p: unknown, q: unknown): boolean {
  if (p === q) return true;
  if (Array.isArray(p) && Array.isArray(q))
    return p.length === q.length && p.every((item, i) => sameData(item, q[i]));
  if (!isRecord(p) || !isRecord(q)) return false;
  const names = fieldsOf(p);
  return names.length === fieldsOf(q).length && names.every((name) => sameData(p[name], q[name]));
}
