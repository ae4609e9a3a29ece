import { surveyCountsSchema, surveyLimitsSchema } from '@keen-ridge/core/contract';
import type { SurveyLimits } from '@keen-ridge/core/survey';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from './client.ts';
import { countQuietly } from './quietly.ts';

const limitsKey = (productionId: string) => ['survey-limits', productionId] as const;
const COUNTS = 'survey-counts';

/** What counts as too much in the shots of a production. */
export const useSurveyLimits = (productionId: string) =>
  useQuery({
    queryKey: limitsKey(productionId),
    queryFn: () => ask(surveyLimitsSchema, `/api/productions/${productionId}/survey-limits`),
  });

/** Keeps other limits; they hold at once, and no longer where they could not be kept. */
export function useKeepSurveyLimits(productionId: string) {
  const client = useQueryClient();
  const key = limitsKey(productionId);
  return useMutation({
    mutationFn: (limits: SurveyLimits) =>
      ask(z.null(), `/api/productions/${productionId}/survey-limits`, { method: 'PUT', body: limits }),
    onMutate: (limits) => client.setQueryData(key, limits),
    onError: () => client.invalidateQueries({ queryKey: key }),
    onSettled: () => client.invalidateQueries({ queryKey: [COUNTS] }),
  });
}

/** How many findings a shot has at a revision, as its server counts them. */
export const useSurveyCounts = (shotId: string, revision: number) =>
  useQuery({
    queryKey: [COUNTS, shotId, revision],
    queryFn: ({ signal }) =>
      countQuietly(() => ask(surveyCountsSchema, `/api/shots/${shotId}/survey/counts`, { signal }), signal),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Where the guides of planes are; of all that the shot shows without any. */
export const guidesUrl = (shotId: string, format: string, planes: readonly string[] = []): string =>
  `/api/shots/${shotId}/survey/guides?format=${format}${planes.length > 0 ? `&planes=${planes.join(',')}` : ''}`;
