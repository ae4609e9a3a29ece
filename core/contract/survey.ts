import { z } from 'zod';
import type { SurveyLimits } from '../survey/index.ts';

/** What counts as too much, kept for a production; bounds as in the dialog. */
export const surveyLimitsSchema = z.strictObject({
  gapPx: z.number().min(0).max(1000),
  softness: z.number().min(0.1).max(10),
  crossingSeconds: z.number().min(0.1).max(100),
  slipPx: z.number().min(0).max(10_000),
}) satisfies z.ZodType<SurveyLimits>;

/** How many findings a shot has, as it was at a revision. */
export const surveyCountsSchema = z.object({
  revision: z.int(),
  open: z.int(),
  leftSo: z.int(),
  advice: z.int(),
});
export type SurveyCounts = z.infer<typeof surveyCountsSchema>;

export const GUIDE_FORMATS = ['png', 'openraster', 'psd'] as const;
export type GuideFormat = (typeof GUIDE_FORMATS)[number];

/** Guides of some planes, by their ids parted by commas; of all that are seen without any. One is a file, more are a zip. */
export const guidesQuerySchema = z.object({
  format: z.enum(GUIDE_FORMATS),
  planes: z
    .string()
    .optional()
    .transform((text) => (text ? text.split(',') : null)),
});
