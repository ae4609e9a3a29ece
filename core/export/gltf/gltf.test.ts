import {
  AnimationMixer,
  type Camera,
  LoopOnce,
  type Mesh,
  type Object3D,
  type PerspectiveCamera,
  Vector3,
} from 'three';
import { type GLTF, GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { beforeAll, describe, expect, it } from 'vitest';
import { setMove, usualSway } from '../../edits/camera/index.ts';
import { setChannelValue } from '../../edits/keys/index.ts';
import { setPlaneMount } from '../../edits/planes/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { gltfReport, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { shotPictures, writeGltf } from './index.ts';

const SKY = testPlaneId('sky');
const CART = testPlaneId('cart');
const LAMP = testPlaneId('lamp');
const SIGN = testPlaneId('sign');
const DUST = testPlaneId('dust');
const PNG = Uint8Array.from(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  ),
);

/** A camera that does all it can, a cart on a track of keys with a turned lamp on it, and a sign before the lens. */
function shot(): Scene {
  const still = testScene(
    [
      testPlane({ id: SIGN, mount: { on: 'camera' }, depthSpx: -200, name: 'Sign' }, 120, 80),
      testPlane({ id: LAMP, name: 'Lamp', depthSpx: -20 }, 60, 90),
      testPlane({ id: CART, name: 'Cart', depthSpx: 120 }, 300, 160),
      testPlane({ id: DUST, name: 'Dust', depthSpx: 300, repeat: 'across', opacity: 0.5 }, 200, 100),
      testPlane({ id: SKY, name: 'Sky', depthSpx: 4000 }, 900, 500),
    ],
    { lengthFrames: 24 },
  );
  const squashed = withPlaneList(
    still,
    planesOf(still).map((plane) =>
      plane.id === CART
        ? { ...plane, transform: { ...plane.transform, scaleX: 1.4, scaleY: 0.6, rotationDeg: 12 } }
        : plane.id === LAMP
          ? { ...plane, transform: { ...plane.transform, rotationDeg: 35, scaleX: -0.8 } }
          : plane,
    ),
  );
  const mounted = setPlaneMount(squashed, LAMP, { on: 'plane', plane: CART }, 1);
  if (!mounted.ok) throw new Error(mounted.error);
  const key = (scene: Scene, name: 'panX' | 'panY' | 'truck' | 'zoom' | 'roll', from: number, to: number) =>
    setChannelValue(
      setChannelValue(scene, { on: 'camera', name }, from, { frame: 1, keying: true }),
      { on: 'camera', name },
      to,
      { frame: 24, keying: true },
    );
  const onPlane = (
    scene: Scene,
    name: 'x' | 'rotation' | 'scale' | 'depth' | 'opacity',
    frame: number,
    value: number,
    plane = CART,
  ) => setChannelValue(scene, { on: 'plane', plane, name }, value, { frame, keying: true });
  let moving = key(mounted.value, 'panX', -80, 120);
  moving = key(moving, 'panY', 10, -30);
  moving = key(moving, 'truck', 0, 60);
  moving = key(moving, 'zoom', 1, 1.6);
  moving = key(moving, 'roll', 0, 25);
  moving = onPlane(onPlane(moving, 'x', 1, -200), 'x', 20, 300);
  moving = onPlane(onPlane(moving, 'rotation', 1, 12), 'rotation', 24, 400);
  moving = onPlane(onPlane(moving, 'depth', 1, 120), 'depth', 24, 20);
  moving = onPlane(onPlane(moving, 'opacity', 1, 1, DUST), 'opacity', 24, 0.2, DUST);
  return setMove(moving, { sway: usualSway(moving) });
}

interface Read {
  readonly gltf: GLTF;
  readonly json: {
    cameras: unknown[];
    animations?: {
      channels: {
        sampler: number;
        target: { path: string; extensions?: Record<string, { pointer: string }> };
      }[];
      samplers: { input: number; output: number }[];
    }[];
    materials: { pbrMetallicRoughness: { baseColorTexture?: unknown } }[];
  };
  readonly values: (accessor: number) => Promise<Float32Array>;
}

/** three's loader; without textures, which it can only load in a page. */
async function readByThree(glb: Uint8Array): Promise<Read> {
  (globalThis as { self?: unknown }).self ??= globalThis;
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  const jsonBytes = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + jsonBytes)));
  for (const material of json.materials) delete material.pbrMetallicRoughness.baseColorTexture;
  const text = new TextEncoder().encode(JSON.stringify(json).padEnd(jsonBytes));
  const copy = glb.slice();
  copy.set(text.subarray(0, jsonBytes), 20);
  const gltf = await new GLTFLoader().parseAsync(copy.buffer, '');
  return {
    gltf,
    json,
    values: async (accessor) => (await gltf.parser.getDependency('accessor', accessor)).array,
  };
}

describe('a shot as glTF', () => {
  const scene = shot();
  let glb: Uint8Array;
  let read: Read;
  beforeAll(async () => {
    const pngs = new Map(shotPictures(scene).map(({ key }) => [key, PNG]));
    glb = await writeGltf(scene, 'Shot 010', pngs);
    read = await readByThree(glb);
  });

  it('has nothing that the validator of the Khronos Group finds fault with', async () => {
    const report = await gltfReport(glb);
    expect(report.issues.messages.filter(({ severity }: { severity: number }) => severity <= 1)).toEqual([]);
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0]);
    expect(report.info.totalTriangleCount).toBe(2 * 5);
  });

  it('is seen by three as we see it: every corner of every plane within 0.01 px on every frame', async () => {
    const { gltf, json, values } = read;
    const [camera] = gltf.cameras as [PerspectiveCamera & Camera];
    const mixer = new AnimationMixer(gltf.scene);
    const action = mixer.clipAction(gltf.animations[0]!).setLoop(LoopOnce, 1);
    action.clampWhenFinished = true;
    action.play();
    const zoomed = json.animations![0]!.channels.find(({ target }) =>
      target.extensions?.KHR_animation_pointer?.pointer.endsWith('/yfov'),
    )!;
    expect(zoomed.target.extensions!.KHR_animation_pointer!.pointer).toBe('/cameras/0/perspective/yfov');
    const yfov = await values(json.animations![0]!.samplers[zoomed.sampler]!.output);
    const { widthPx, heightPx } = scene.frame;
    let looked = 0;
    for (let frame = 1; frame <= scene.lengthFrames; frame++) {
      mixer.setTime((frame - 1) / 24);
      camera.fov = (yfov[frame - 1]! * 180) / Math.PI;
      camera.updateProjectionMatrix();
      gltf.scene.updateMatrixWorld(true);
      for (const { planeId, artToFrame } of framePlan(scene, frame).planes) {
        const { name } = planeOf(scene, planeId)!;
        // Names that nodes and meshes share are told apart by a number behind them.
        const mesh = meshesOf(gltf.scene).find((one) => one.name.startsWith(name))!;
        const position = mesh.geometry.getAttribute('position');
        for (let i = 0; i < position.count; i++) {
          const at = new Vector3()
            .fromBufferAttribute(position, i)
            .applyMatrix4(mesh.matrixWorld)
            .project(camera);
          const ours = applyAffine(artToFrame!, { x: position.getX(i), y: -position.getY(i) });
          const theirs = { x: ((at.x + 1) / 2) * widthPx, y: ((1 - at.y) / 2) * heightPx };
          expect(Math.hypot(theirs.x - ours.x, theirs.y - ours.y), `${name} on ${frame}`).toBeLessThan(0.01);
          looked++;
        }
      }
    }
    expect(looked).toBe(24 * 5 * 4);
  });

  it('has riders as children, and a second node where a turn meets a squash', () => {
    const lamp = meshesOf(read.gltf.scene).find(({ name }) => name.startsWith('Lamp'))!;
    const above: string[] = [];
    for (let node: Object3D | null = lamp; node; node = node.parent) above.push(node.name);
    expect(above.join(' < ')).toMatch(/Lamp.*Lamp.*Cart/);
    const sign = meshesOf(read.gltf.scene).find(({ name }) => name.startsWith('Sign'))!;
    let over: Object3D | null = sign;
    while (over && !(over as Partial<Camera>).isCamera && over.name !== 'Camera') over = over.parent;
    expect(over?.name).toMatch(/^Camera/);
  });

  it('of a still shot has no animation', async () => {
    const still = testScene([testPlane({ id: SKY })], { lengthFrames: 5 });
    const { json } = await readByThree(await writeGltf(still, 'Still', new Map()));
    expect(json.animations).toBeUndefined();
  });
});

function meshesOf(root: Object3D): Mesh[] {
  const found: Mesh[] = [];
  root.traverse((node) => {
    if ((node as Partial<Mesh>).isMesh) found.push(node as Mesh);
  });
  return found;
}
