import type { Scene } from '../../scene/index.ts';

/** Leaves a finding of the survey as it is, with a note and how bad it is now; it opens again when it grows. */
export const leaveSo = (scene: Scene, findingId: string, note: string, measured: number): Scene => ({
  ...scene,
  survey: { leftSo: { ...scene.survey?.leftSo, [findingId]: { note, measured } } },
});

/** Opens a finding again that was left so. */
export function openAgain(scene: Scene, findingId: string): Scene {
  if (!scene.survey?.leftSo[findingId]) return scene;
  const { [findingId]: _, ...leftSo } = scene.survey.leftSo;
  return { ...scene, survey: { leftSo } };
}
