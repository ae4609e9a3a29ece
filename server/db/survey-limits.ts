import { surveyLimitsSchema } from '@keen-ridge/core/contract';
import { type SurveyLimits, USUAL_LIMITS } from '@keen-ridge/core/survey';
import { and, eq, isNull } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database } from './connection/queryable.ts';
import { productions } from './schema.ts';

/** What counts as too much in the shots of a production. */
export async function readSurveyLimits(db: Database, productionId: string): Promise<SurveyLimits> {
  const [row] = await db
    .select({ limits: productions.surveyLimits })
    .from(productions)
    .where(and(eq(productions.id, productionId), isNull(productions.deletedAt)));
  if (!row) throw notFound('This production');
  // Those of an older form are as usual again.
  const read = surveyLimitsSchema.safeParse(row.limits);
  return read.success ? read.data : USUAL_LIMITS;
}

export async function keepSurveyLimits(
  db: Database,
  productionId: string,
  limits: SurveyLimits,
): Promise<void> {
  const kept = await db
    .update(productions)
    .set({ surveyLimits: limits })
    .where(and(eq(productions.id, productionId), isNull(productions.deletedAt)))
    .returning({ id: productions.id });
  if (kept.length === 0) throw notFound('This production');
}
