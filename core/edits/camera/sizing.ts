/** Whether the size of a field is the zoom's or the truck's. */
export const SIZINGS = ['zoom', 'truck'] as const;
export type Sizing = (typeof SIZINGS)[number];
