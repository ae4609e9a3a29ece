import { z } from 'zod';

/** What leaves a shot at once, without a queue. */
export const EXPORT_KINDS = ['csv', 'json', 'glb', 'sheet-pdf', 'sheet-svg', 'stills'] as const;
export type ExportKind = (typeof EXPORT_KINDS)[number];

export const SHEET_PAPERS = ['A4', 'A3', 'letter'] as const;
export type SheetPaper = (typeof SHEET_PAPERS)[number];

export const EXPORTS_OF = ['all', 'camera', 'datum', 'planes'] as const;

/** Planes by id, with a comma between them; a name may hold one, an id does not. */
const planes = z
  .string()
  .max(40_000)
  .transform((text) => text.split(',').filter((id) => id !== ''));

export const exportQuerySchema = z.object({
  as: z.enum(EXPORT_KINDS),
  /** Of stage data and stills: all of the shot, the camera alone, what stands on the datum, or the planes that are named. */
  of: z.enum(EXPORTS_OF).default('all'),
  planes: planes.default([]),
  /** Longest side of the pictures of planes, px. */
  art: z.coerce.number().int().min(16).max(8192).default(2048),
  paper: z.enum(SHEET_PAPERS).default('A4'),
});
export type ExportQuery = z.output<typeof exportQuerySchema>;
