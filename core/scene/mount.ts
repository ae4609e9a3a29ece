import { z } from 'zod';
import { planeIdSchema } from './ids.ts';

export const mountSchema = z.discriminatedUnion('on', [
  z.strictObject({ on: z.literal('stage') }),
  z.strictObject({ on: z.literal('camera') }),
  /** Depth and place count from that plane's, in its own px. */
  z.strictObject({ on: z.literal('plane'), plane: planeIdSchema }),
]);

export type Mount = z.infer<typeof mountSchema>;
