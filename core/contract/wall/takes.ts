import { z } from 'zod';
import { takenLookSchema } from '../../edits/look/index.ts';
import { easeSchema, LIMITS } from '../../scene/index.ts';
import { soundSceneSchema } from '../../staging/check/index.ts';
import { nameSchema } from './wall.ts';

/** A take: the whole set-up of a shot as it was once. It never changes but for its name and note. */
export const takeSchema = z.object({
  id: z.uuid(),
  /** Counts up in a shot, from 1. */
  number: z.int(),
  name: z.string(),
  note: z.string(),
  madeAt: z.string(),
});
export type Take = z.infer<typeof takeSchema>;
export const takeListSchema = z.object({ takes: z.array(takeSchema) });
export const takeSceneSchema = z.object({ scene: soundSceneSchema });

export const newTakeSchema = z.strictObject({
  name: nameSchema,
  note: z.string().max(2000),
  scene: soundSceneSchema,
});
export const takeWordsSchema = z.strictObject({ name: nameSchema, note: z.string().max(2000) });

/** An ease that the artist keeps, for every production. */
export const keptEaseSchema = z.object({ id: z.uuid(), name: z.string(), ease: easeSchema });
export type KeptEase = z.infer<typeof keptEaseSchema>;
export const easeShelfSchema = z.object({ eases: z.array(keptEaseSchema).max(LIMITS.keys.max) });
export const newKeptEaseSchema = z.strictObject({ name: nameSchema, ease: easeSchema });

/** A look that the artist keeps, for the shots of a production. */
export const keptLookSchema = z.object({ id: z.uuid(), name: z.string(), look: takenLookSchema });
export type KeptLook = z.infer<typeof keptLookSchema>;
export const lookShelfSchema = z.object({ looks: z.array(keptLookSchema).max(LIMITS.keys.max) });
export const newKeptLookSchema = z.strictObject({ name: nameSchema, look: takenLookSchema });
