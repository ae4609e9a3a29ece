import {
  type HandoffList,
  type HandoffState,
  handoffRequestSchema,
  handoffStateSchema,
} from '@keen-ridge/core/contract';
import { livingWorkers } from '../db/connection/life-lock.ts';
import type { Database } from '../db/connection/queryable.ts';
import { listedHandoffs } from '../db/handoffs.ts';
import { filmToolPresent } from '../film/film-writer.ts';

const UNREADABLE: HandoffState = {
  state: 'failed',
  reason: 'It was stored by another version of the program and cannot be read.',
};

/** The hand-offs of a shot with how far each is, and who there is to render them. */
export async function listHandoffs(
  { db, engine: own }: { readonly db: Database; readonly engine: string },
  shotId: string,
): Promise<HandoffList> {
  const rows = await listedHandoffs(db, shotId);
  const engines = [...(await livingWorkers(db)).values()];
  const workers = engines.filter((engine) => engine === own).length;
  return {
    handoffs: rows.map(({ id, request, progress, place, madeAt }) => ({
      id,
      place,
      at: madeAt.toISOString(),
      request: handoffRequestSchema.safeParse(request).data ?? null,
      progress: handoffStateSchema.safeParse(progress).data ?? UNREADABLE,
    })),
    filmReady: filmToolPresent(),
    workers,
    strangers: engines.length - workers,
  };
}
