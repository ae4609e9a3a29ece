import { z } from 'zod';

export const planeIdSchema = z.string().min(1).max(64).brand<'PlaneId'>();

export type PlaneId = z.infer<typeof planeIdSchema>;

/** SHA-256 of the art's PNG bytes, lower-case hex: the same image is stored once. */
export const artIdSchema = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'is not a SHA-256 in lower-case hex')
  .brand<'ArtId'>();

export type ArtId = z.infer<typeof artIdSchema>;

export const markerIdSchema = z.string().min(1).max(64).brand<'MarkerId'>();

export type MarkerId = z.infer<typeof markerIdSchema>;

export const pinIdSchema = z.string().min(1).max(64).brand<'PinId'>();

export type PinId = z.infer<typeof pinIdSchema>;

export const setIdSchema = z.uuid().brand<'SetId'>();

export type SetId = z.infer<typeof setIdSchema>;
