/** Closes an exhaustive switch: compiles only when every variant is handled. Throws if one slips through. */
export function assertNever(value: never): never {
  throw new Error(`Unhandled variant: ${JSON.stringify(value)}`);
}
