import type { Content } from '../scene/index.ts';

/** Cards and shapes have no px of their own: they stand in for paint to come, and are drawn anew at any size. */
export const standsIn = ({ kind }: Pick<Content, 'kind'>): boolean => kind === 'card' || kind === 'shapes';
