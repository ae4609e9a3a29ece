type Made<V> = { readonly value: V };

/**
 * `make`, remembered by the identity of its arguments for as long as they live. Arguments must not be changed after
 * the call; the signature of `make` says what the memory is kept by.
 */
export function memo<K extends readonly object[], V>(make: (...keys: K) => V): (...keys: K) => V {
  const root = new WeakMap<object, unknown>();
  return (...keys) => {
    let level = root;
    for (const key of keys.slice(0, -1)) {
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
