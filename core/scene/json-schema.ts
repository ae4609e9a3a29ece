import { z } from 'zod';
import { sceneSchema } from './scene.ts';

/** The scene as JSON Schema (draft 2020-12), made from the validator itself. */
export function sceneJsonSchema(): object {
  return {
    title: 'Keen Ridge scene',
    description:
      'The set-up of one shot. Units stand in the names: Px output, Spx stage, ArtPx art pixels, Deg degrees.',
    ...z.toJSONSchema(sceneSchema, { target: 'draft-2020-12' }),
  };
}
