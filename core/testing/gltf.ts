/// <reference path="./gltf-validator.d.ts" />

/** What the validator of the Khronos Group says of a .glb; loaded when it is asked, since it is large. */
export async function gltfReport(glb: Uint8Array) {
  const { validateBytes } = await import('gltf-validator');
  return validateBytes(glb, { maxIssues: 50 });
}
