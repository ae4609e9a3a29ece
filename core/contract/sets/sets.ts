import { z } from 'zod';
import { authorSchema } from '../../history/index.ts';
import { LIMITS, planeIdSchema, planeSchema, setIdSchema } from '../../scene/index.ts';

const name = z.string().trim().min(1).max(LIMITS.nameLength.max);
const planes = z.array(planeSchema).min(1).max(LIMITS.planes.max);

/** A shot that uses a set: which of the set's planes it follows, and how many it has its own copies of. */
export const setUserSchema = z.object({
  shotId: z.uuid(),
  name: z.string(),
  follow: z.array(planeIdSchema),
  own: z.int(),
});
export type SetUser = z.infer<typeof setUserSchema>;

/** A set of a production. */
export const productionSetSchema = z.object({
  id: setIdSchema,
  name: z.string(),
  /** Counts up with each change. */
  revision: z.int(),
  planes: z.array(planeSchema),
  users: z.array(setUserSchema),
});
export type ProductionSet = z.infer<typeof productionSetSchema>;
export const setListSchema = z.object({ sets: z.array(productionSetSchema) });

/** The id is the caller's: the same set asked for twice is made once. */
export const newSetSchema = z.strictObject({ id: setIdSchema, name, planes });
export type NewSet = z.infer<typeof newSetSchema>;

/** A set as one shot has it now; `revision` is the one that the shot knows. */
export const setChangeSchema = z.strictObject({ planes, revision: z.int(), author: authorSchema });
export type SetChange = z.infer<typeof setChangeSchema>;

export const setChangedSchema = z.object({
  revision: z.int(),
  /** Shots that were changed by it. */
  followed: z.array(z.object({ shotId: z.uuid(), name: z.string() })),
  /** Shots that could not, each with why. */
  left: z.array(z.object({ shotId: z.uuid(), name: z.string(), why: z.string() })),
});
export type SetChanged = z.infer<typeof setChangedSchema>;

export const setNameSchema = z.strictObject({ name });

/** Findings of the shots that use a set, as they are now. */
export const setFindingsSchema = z.object({
  shots: z.array(z.object({ shotId: z.uuid(), name: z.string(), open: z.int() })),
});
export type SetFindings = z.infer<typeof setFindingsSchema>;
