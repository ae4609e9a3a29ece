import { z } from 'zod';

const pointer = z
  .string()
  .max(400)
  .regex(/^(\/[^/]+)+$/, 'is not a JSON Pointer to a field')
  .refine((path) => !path.split('/').includes('__proto__'), 'names what no scene has');

const fieldOf = (op: 'test' | 'add' | 'replace') =>
  z.strictObject({ op: z.literal(op), path: pointer, value: z.json() });

/**
 * What an edit did, as a JSON Patch (RFC 6902) of fields of records. A `test` of what was there comes before every
 * `replace` and `remove`, so a patch says all that it is made on, can be turned round, and lands only where nothing
 * of it has changed.
 */
export const patchSchema = z
  .array(
    z.discriminatedUnion('op', [
      fieldOf('test'),
      fieldOf('add'),
      fieldOf('replace'),
      z.strictObject({ op: z.literal('remove'), path: pointer }),
    ]),
  )
  .max(100_000);
export type Patch = z.infer<typeof patchSchema>;
export type Json = z.infer<ReturnType<typeof z.json>>;

/** One field before and after; `undefined` where it is not there. */
export interface FieldChange {
  readonly path: string;
  readonly was: Json | undefined;
  readonly is: Json | undefined;
}

/** The fields that a patch changes, in order; null where it does not test what it replaces. */
export function fieldChanges(patch: Patch): FieldChange[] | null {
  const changes: FieldChange[] = [];
  for (let i = 0; i < patch.length; i++) {
    const step = patch[i]!;
    if (step.op === 'add') {
      changes.push({ path: step.path, was: undefined, is: step.value });
      continue;
    }
    const next = patch[++i];
    if (step.op !== 'test' || !next || next.path !== step.path) return null;
    if (next.op === 'replace') changes.push({ path: step.path, was: step.value, is: next.value });
    else if (next.op === 'remove') changes.push({ path: step.path, was: step.value, is: undefined });
    else return null;
  }
  return changes;
}

export const patchOf = (changes: readonly FieldChange[]): Patch =>
  changes.flatMap(({ path, was, is }): Patch => {
    if (was === undefined) return is === undefined ? [] : [{ op: 'add', path, value: is }];
    const test = { op: 'test', path, value: was } as const;
    return [test, is === undefined ? { op: 'remove', path } : { op: 'replace', path, value: is }];
  });

/** The patch that takes `patch` back. Throws on one that is not of ours. */
export function inverseOf(patch: Patch): Patch {
  const changes = fieldChanges(patch);
  if (!changes) throw new RangeError('This patch does not say what was there before it');
  return patchOf(changes.reverse().map(({ path, was, is }) => ({ path, was: is, is: was })));
}

/** The fields that a patch writes, each once. */
export const touchedBy = (patch: Patch): string[] => [
  ...new Set(patch.filter(({ op }) => op !== 'test').map(({ path }) => path)),
];
