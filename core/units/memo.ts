type Made<V> = { readonly value: V };

/**
 * `make`, remembered by the identity of its arguments for as long as they live. Arguments must not be changed after
 * the call; the signature of `make` says what the memory is kept by.
 */
export function memo<K extends readonly object[], V>(make: (...keys: K) => V): (...keys: K) => V {
  const root = new WeakMap<object, unknown>();
  return (...keys) => {
    let level = root;
    // Asked millions of times: an answer that is known allocates nothing.
    for (let i = 0; i < keys.length - 1; i++) {
      const key = keys[i] as object;
      let next = level.get(key) as WeakMap<object, unknown> | undefined;
      if (!next) {
        next = new WeakMap();
        level.set(key, next);
      }
      level = next;
    }
    const last = keys[keys.length - 1] as object;
    const known = level.get(last) as Made<V> | undefined;
    if (known) return known.value;
    const made = { value: make(...keys) };
    level.set(last, made);
    return made.value;
  };
}

/**
 * `make`, remembered for each `key` with the last of what else it was asked with: many ask for one thing while it is
 * looked at, and then for the next.
 */
export function memoLast<K extends object, R extends readonly (number | string)[], V>(
  make: (key: K, ...rest: R) => V,
): (key: K, ...rest: R) => V {
  const lasts = new WeakMap<K, { readonly rest: R; readonly value: V }>();
  return (key, ...rest) => {
    const last = lasts.get(key);
    if (last?.rest.every((part, i) => part === rest[i])) return last.value;
    const made = { rest, value: make(key, ...rest) };
    lasts.set(key, made);
    return made.value;
  };
}
