import {
  firstFault,
  LIMITS,
  orderFault,
  planeIdSchema,
  planeSchema,
  type Scene,
  type SceneFault,
  sceneSchema,
} from '../../scene/index.ts';
import { fail, ok, type Result } from '../../units/index.ts';
import { stageFault } from '../index.ts';

const FIELDS = sceneSchema.shape;
type Field = keyof typeof FIELDS;
type NotAScene = Extract<SceneFault, { readonly code: 'not-a-scene' }>;

/**
 * `after` as a valid scene, where `before` is one: only what is not shared between them is looked at, and what is
 * shared stays the same object. The detail names the first offending field.
 */
export function checkedAfter(before: Scene, after: Scene): Result<Scene, NotAScene> {
  const unknown = Object.keys(after).find((name) => !Object.hasOwn(FIELDS, name));
  if (unknown !== undefined) return fail(fault(`${unknown}: is not a part of a scene`));
  for (const name of Object.keys(FIELDS) as Field[]) {
    if (after[name] === before[name]) continue;
    const found = name === 'planes' ? planesFault(before.planes, after.planes) : fieldFault(name, after);
    if (found !== null) return fail(fault(found));
  }
  const order = orderFault(after.planes, after.order);
  if (order) return fail(fault(`${order.path.join('.')}: ${order.message}`));
  const stage = stageFault(after);
  return stage === null ? ok(after) : fail(fault(`planes: ${stage}`));
}

const fault = (detail: string): NotAScene => ({ code: 'not-a-scene', detail });

function fieldFault(name: Field, scene: Scene): string | null {
  const parsed = FIELDS[name].safeParse(scene[name]);
  return parsed.success ? null : firstFault(parsed.error, [name]);
}

function planesFault(before: Scene['planes'], after: Scene['planes']): string | null {
  if (Object.keys(after).length > LIMITS.planes.max) return `planes: has over ${LIMITS.planes.max} planes`;
  for (const [id, plane] of Object.entries(after)) {
    if (before[plane.id] === plane) continue;
    const name = planeIdSchema.safeParse(id);
    if (!name.success) return firstFault(name.error, ['planes', id]);
    const parsed = planeSchema.safeParse(plane);
    if (!parsed.success) return firstFault(parsed.error, ['planes', id]);
  }
  return null;
}
