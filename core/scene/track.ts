import { z } from 'zod';
import { beyond, easeSchema, keyFrame, marks } from './channel.ts';
import { coordinate, LIMITS } from './limits.ts';

const placeSchema = z.tuple([coordinate, coordinate, coordinate]);

/** A path through space by length: keys in order of frame, with the bends that shape the way between them. */
export const trackSchema = z.strictObject({
  ...marks,
  ...beyond,
  points: z
    .array(
      z.discriminatedUnion('kind', [
        z.strictObject({
          kind: z.literal('key'),
          frame: keyFrame,
          at: placeSchema,
          smooth: z.boolean(),
          ease: easeSchema,
        }),
        z.strictObject({ kind: z.literal('bend'), at: placeSchema }),
      ]),
    )
    .min(1)
    .max(LIMITS.trackPoints.max)
    .refine(
      (points) => points[0]?.kind === 'key' && points.at(-1)?.kind === 'key',
      'a track begins and ends with a key',
    )
    .refine((points) => {
      const frames = points.flatMap((point) => (point.kind === 'key' ? [point.frame] : []));
      return frames.every((frame, i) => i === 0 || frame > (frames[i - 1] ?? 0));
    }, 'keys of a track must stand in order of frame, no two on one frame'),
});
