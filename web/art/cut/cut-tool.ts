export type CutTool = 'lasso' | 'polygon' | 'colour' | 'copy';

export const SHOWN = ['painting', 'taken', 'left'] as const;
export type Shown = (typeof SHOWN)[number];
