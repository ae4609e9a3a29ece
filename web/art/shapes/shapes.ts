import type { Content } from '@keen-ridge/core/scene';

export type Shapes = Extract<Content, { kind: 'shapes' }>;
