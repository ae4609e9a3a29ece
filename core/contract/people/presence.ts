import { z } from 'zod';
import { authorSchema } from '../../history/index.ts';

/** Seconds after which a window that has not said again that it is there counts as gone. */
export const PRESENT_SECONDS = 45;

/** A window in which a shot is open, and the plane that is chosen there last. */
export const presentSchema = z.strictObject({
  window: z.uuid(),
  author: authorSchema,
  plane: z.string().max(64).nullable(),
});
export type Present = z.infer<typeof presentSchema>;

/** What a window says of itself; `gone` as it is left. */
export const sayPresentSchema = presentSchema.extend({ gone: z.boolean().default(false) });
export type SayPresent = z.infer<typeof sayPresentSchema>;

/** Every window in which a shot is open, as a stream tells it. */
export const presentListSchema = z.array(presentSchema);
