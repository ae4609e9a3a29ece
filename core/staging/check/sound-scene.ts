import { sceneSchema } from '../../scene/index.ts';
import { stageFault } from '../index.ts';

/** A scene that can be staged: every mount holds, and every plane stands before the home camera. */
export const soundSceneSchema = sceneSchema.superRefine((scene, context) => {
  const fault = stageFault(scene);
  if (fault) context.addIssue({ code: 'custom', message: fault, path: ['planes'] });
});
