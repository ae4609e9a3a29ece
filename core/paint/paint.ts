import { z } from 'zod';

/** `#rrggbb` in lower case: an sRGB colour. */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'is not a colour such as #7f9fbf');

export const MIX_SPACES = ['oklab', 'srgb'] as const;
const unit = z.number().min(0).max(1);
const MOST_STOPS = 64;

const stopsSchema = z
  .array(z.strictObject({ at: unit, colour: colourSchema, opacity: unit }))
  .min(2)
  .max(MOST_STOPS)
  .refine(
    (stops) => stops.every((stop, i) => i === 0 || stop.at >= (stops[i - 1]?.at ?? 0)),
    'stops must stand in order along the gradient',
  );

/** What fills a card or a shape. Places are shares of the filled box; angles as in CSS Images Level 3, section 3.1. */
export const paintSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('solid'), colour: colourSchema, opacity: unit }),
  z.strictObject({
    kind: z.literal('linear'),
    /** 0 runs upwards, 90 to the right. */
    angleDeg: z.number().min(-36_000).max(36_000),
    space: z.enum(MIX_SPACES),
    stops: stopsSchema,
  }),
  z.strictObject({
    kind: z.literal('radial'),
    centreX: z.number().min(-10).max(11),
    centreY: z.number().min(-10).max(11),
    /** Share of half the diagonal of the box: 1 reaches the corners from its centre. */
    radius: z.number().min(0.001).max(20),
    space: z.enum(MIX_SPACES),
    stops: stopsSchema,
  }),
]);
export type Paint = z.infer<typeof paintSchema>;
export type Gradient = Exclude<Paint, { kind: 'solid' }>;
export type GradientStop = Gradient['stops'][number];
export type MixSpace = (typeof MIX_SPACES)[number];
