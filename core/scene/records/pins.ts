import type { Pin, PinId, Plane } from '../index.ts';

export type ListedPin = Pin & { readonly id: PinId };

const collator = new Intl.Collator('en', { numeric: true });

/** The pins of a plane by name. */
export const pinsOf = ({ pins }: Pick<Plane, 'pins'>): readonly ListedPin[] =>
  Object.entries(pins ?? {})
    .map(([id, pin]) => ({ ...pin, id: id as PinId }))
    .sort((p, q) => collator.compare(p.name, q.name) || (p.id < q.id ? -1 : 1));
