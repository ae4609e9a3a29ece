export type CutTool = 'lasso' | 'polygon' | 'colour' | 'copy';

export type Shown = 'painting' | 'taken' | 'left';
