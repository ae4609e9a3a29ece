import type { PlaneId } from '../index.ts';

type Order = readonly PlaneId[];

/**
 * `order` with the planes of `wanted` in that order. Those that it has change places among themselves, new ones come
 * after the one that they follow in `wanted`, and all others stay where they are.
 */
export function arranged(order: Order, wanted: Order): PlaneId[] {
  const has = new Set(order);
  const there = new Set(wanted);
  const inTurn = wanted.filter((id) => has.has(id))[Symbol.iterator]();
  const result = order.map((id) => (there.has(id) ? (inTurn.next().value as PlaneId) : id));
  return withAdded(result, wanted);
}

/** `order` with those of `wanted` that it lacks: each after the one before it there, or first of all. */
export function withAdded(order: Order, wanted: Order): PlaneId[] {
  const result = [...order];
  const has = new Set(order);
  wanted.forEach((id, i) => {
    if (has.has(id)) return;
    const before = wanted[i - 1];
    result.splice(before === undefined ? 0 : result.indexOf(before) + 1, 0, id);
    has.add(id);
  });
  return result;
}

/**
 * What `wanted` did to `base`, done to `current` instead: planes added and taken away on either side stay so. Null
 * where both sides have put planes that all three have into another order: then nobody can say which is meant.
 */
export function mergedOrder(base: Order, wanted: Order, current: Order): PlaneId[] | null {
  const common = new Set(base.filter((id) => wanted.includes(id) && current.includes(id)));
  const shared = (order: Order) => order.filter((id) => common.has(id));
  const [were, want, are] = [shared(base), shared(wanted), shared(current)];
  const same = (p: Order, q: Order) => p.every((id, i) => id === q[i]);
  if (!same(were, want) && !same(were, are) && !same(want, are)) return null;
  const gone = new Set(base.filter((id) => !wanted.includes(id)));
  const known = new Set(base);
  const kept = current.filter((id) => !gone.has(id));
  // Those that somebody else has taken away are not brought back.
  const still = wanted.filter((id) => common.has(id) || !known.has(id));
  return same(were, want) ? withAdded(kept, still) : arranged(kept, still);
}
