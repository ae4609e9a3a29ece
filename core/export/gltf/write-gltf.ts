import {
  type Accessor,
  type Animation,
  type Buffer,
  Document,
  type Material,
  type Node,
  WebIO,
} from '@gltf-transform/core';
import { KHRMaterialsUnlit } from '@gltf-transform/extensions';
import type { Box } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';
import { rationalToNumber } from '../../units/index.ts';
import { AnimationPointer } from './animation-pointer.ts';
import { coveredBox, type PlanePicture, picturesOver } from './pictures.ts';
import type { Pose } from './planar.ts';
import { METRES_PER_SPX, type PlaneTrack, type ShotTracks, shotTracks } from './shot-poses.ts';

/** Said in the file itself, for whoever wonders at a zoom that does not move. */
const ZOOM_WORDS =
  'Zoom and opacity that move are animated by KHR_animation_pointer. A reader that does not know it shows both as they are on the first frame; everything else is the same.';

/** What the file is made in, piece by piece. */
interface Making {
  readonly scene: Scene;
  readonly document: Document;
  readonly buffer: Buffer;
  readonly animation: Animation;
  readonly pointer: AnimationPointer;
  readonly unlit: KHRMaterialsUnlit;
  /** Seconds of every frame. */
  readonly times: Accessor;
  /** PNG by picture key; one that is missing leaves its plane plain. */
  readonly pngs: ReadonlyMap<string, Uint8Array>;
}

/**
 * A shot as glTF 2.0 binary: the camera and every plane animated, a key a frame; planes as unlit quads with their art,
 * blended by alpha, what rides on others as their children. Looks, blurs and blend modes are not in it. `pngs`: by the
 * keys of `shotPictures`.
 */
export async function writeGltf(
  scene: Scene,
  shotName: string,
  pngs: ReadonlyMap<string, Uint8Array>,
): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Keen Ridge';
  document.getRoot().setExtras({ shot: shotName, metresPerStagePx: METRES_PER_SPX, zoom: ZOOM_WORDS });
  const buffer = document.createBuffer();
  const seconds = 1 / rationalToNumber(scene.rate);
  const times = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(Float32Array.from({ length: scene.lengthFrames }, (_, i) => i * seconds))
    .setBuffer(buffer);
  const making: Making = {
    scene,
    document,
    buffer,
    animation: document.createAnimation('Shot'),
    pointer: document.createExtension(AnimationPointer),
    unlit: document.createExtension(KHRMaterialsUnlit),
    times,
    pngs,
  };
  const tracks = shotTracks(scene);
  const root = document.createScene(shotName);
  document.getRoot().setDefaultScene(root);
  const camera = cameraNode(making, tracks);
  root.addChild(camera);
  const nodes = new Map(tracks.planes.map((track) => [track.plane.id, planeNodes(making, track)]));
  for (const { plane, parent } of tracks.planes) {
    const { outer } = nodes.get(plane.id)!;
    if (parent === 'scene') root.addChild(outer);
    else (parent === 'camera' ? camera : nodes.get(parent)!.innermost).addChild(outer);
  }
  tidy(making);
  return new WebIO().registerExtensions([AnimationPointer, KHRMaterialsUnlit]).writeBinary(document);
}

/** What is not needed is not in the file: a still shot has no animation, one without zoom no pointers. */
function tidy({ animation, times, pointer }: Making): void {
  const isStill = animation.listChannels().length === 0;
  if (isStill) animation.dispose();
  if (!pointer.isUsed) pointer.dispose();
  if (isStill && !pointer.isUsed) times.dispose();
}

function cameraNode(making: Making, { camera, yfov, aspectRatio, znear }: ShotTracks): Node {
  const { document, pointer, times } = making;
  const lens = document.createCamera('Camera').setType('perspective');
  lens.setYFov(yfov[0]!).setAspectRatio(aspectRatio).setZNear(znear);
  const node = document.createNode('Camera').setCamera(lens);
  setPoses(making, node, camera);
  if (moves(yfov))
    pointer.point({ pointed: { of: 'yfov', camera: lens }, times, values: accessorOf(making, yfov, 1) });
  return node;
}

interface PlaneNodes {
  readonly outer: Node;
  /** What the plane's own px and what rides on it hang on. */
  readonly innermost: Node;
}

function planeNodes(making: Making, track: PlaneTrack): PlaneNodes {
  const { document, scene } = making;
  const { plane, skewed, poses } = track;
  const outer = document.createNode(plane.name);
  setPoses(
    making,
    outer,
    poses.map((pose) => pose.outer),
  );
  const innermost = skewed ? document.createNode(`${plane.name}, skewed`) : outer;
  if (skewed) {
    setPoses(
      making,
      innermost,
      poses.map((pose) => pose.inner),
    );
    outer.addChild(innermost);
  }
  if (plane.hidden) return { outer, innermost };
  const { pictures, at } = picturesOver(plane, scene);
  pictures.forEach((picture, i) => {
    const name = pictures.length === 1 ? plane.name : `${plane.name}, drawing ${i + 1}`;
    const mesh = document.createNode(name).setMesh(meshOf(making, track, picture, name));
    innermost.addChild(mesh);
    if (pictures.length > 1)
      showOn(
        making,
        mesh,
        at.map((shown) => shown === i),
      );
  });
  return { outer, innermost };
}

/** A drawing that is not shown is no larger than a point: visibility itself cannot be animated in glTF 2.0. */
function showOn(making: Making, node: Node, shown: readonly boolean[]): void {
  node.setScale(shown[0] ? [1, 1, 1] : [0, 0, 0]);
  addChannel(
    making,
    node,
    'scale',
    shown.flatMap((is) => (is ? [1, 1, 1] : [0, 0, 0])),
    'STEP',
  );
}

function setPoses(making: Making, node: Node, poses: readonly Pose[]): void {
  const [first] = poses;
  if (!first) return;
  node
    .setTranslation([...first.translation])
    .setRotation([...first.rotation])
    .setScale([...first.scale]);
  const rotations = oneWayRound(poses.map((pose) => pose.rotation));
  if (movesAny(poses.map((pose) => pose.translation)))
    addChannel(
      making,
      node,
      'translation',
      poses.flatMap((pose) => pose.translation),
      'LINEAR',
    );
  if (movesAny(rotations)) addChannel(making, node, 'rotation', rotations.flat(), 'LINEAR');
  if (movesAny(poses.map((pose) => pose.scale)))
    addChannel(
      making,
      node,
      'scale',
      poses.flatMap((pose) => pose.scale),
      'LINEAR',
    );
}

/** A quaternion and its negative are the same turn: of the two the one that is nearer to the frame before. */
function oneWayRound(rotations: readonly Pose['rotation'][]): number[][] {
  const turned: number[][] = [];
  for (const rotation of rotations) {
    const before = turned.at(-1);
    const dot = before ? rotation.reduce((sum, value, i) => sum + value * before[i]!, 0) : 1;
    turned.push(rotation.map((value) => (dot < 0 ? -value : value)));
  }
  return turned;
}

const moves = (values: readonly number[]): boolean => values.some((value) => value !== values[0]);
const movesAny = (rows: readonly (readonly number[])[]): boolean =>
  rows.some((row) => row.some((value, i) => value !== rows[0]![i]));

const TYPES = { 1: 'SCALAR', 2: 'VEC2', 3: 'VEC3', 4: 'VEC4' } as const;

const accessorOf = (
  { document, buffer }: Making,
  values: readonly number[],
  each: keyof typeof TYPES,
): Accessor =>
  document.createAccessor().setType(TYPES[each]).setArray(Float32Array.from(values)).setBuffer(buffer);

function addChannel(
  making: Making,
  node: Node,
  path: 'translation' | 'rotation' | 'scale',
  values: readonly number[],
  interpolation: 'LINEAR' | 'STEP',
): void {
  const { document, animation, times } = making;
  const sampler = document
    .createAnimationSampler()
    .setInput(times)
    .setOutput(accessorOf(making, values, path === 'rotation' ? 4 : 3))
    .setInterpolation(interpolation);
  animation.addSampler(sampler);
  animation.addChannel(
    document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler),
  );
}

/** A quad over what is seen of the plane, in its own px with y up, in the order that faces the camera. */
function meshOf(making: Making, track: PlaneTrack, picture: PlanePicture, name: string) {
  const { document, scene, buffer } = making;
  const { x0, y0, x1, y1 } = coveredBox(track.plane, picture, track.artToFrame, scene.frame);
  const indices = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
    .setBuffer(buffer);
  const quad = document
    .createPrimitive()
    .setIndices(indices)
    .setAttribute('POSITION', accessorOf(making, [x0, -y1, 0, x1, -y1, 0, x1, -y0, 0, x0, -y0, 0], 3))
    .setAttribute('TEXCOORD_0', accessorOf(making, uvOf({ x0, y0, x1, y1 }, picture), 2))
    .setMaterial(materialOf(making, track, picture, name));
  return document.createMesh(name).addPrimitive(quad);
}

/** glTF's textures begin in the upper left corner. */
function uvOf({ x0, y0, x1, y1 }: Box, { widthPx, heightPx }: PlanePicture): number[] {
  const [u0, u1, v0, v1] = [x0 / widthPx, x1 / widthPx, y0 / heightPx, y1 / heightPx];
  return [u0, v1, u1, v1, u1, v0, u0, v0];
}

/** How textures go on beyond their edges (glTF 2.0, section 3.8.4.3). */
const REPEAT = 10_497;
const CLAMP_TO_EDGE = 33_071;

function materialOf(
  making: Making,
  { plane, opacities }: PlaneTrack,
  picture: PlanePicture,
  name: string,
): Material {
  const { document, unlit, pointer, times, pngs } = making;
  const material = document
    .createMaterial(name)
    .setAlphaMode('BLEND')
    .setDoubleSided(true)
    .setBaseColorFactor([1, 1, 1, opacities[0] ?? 1])
    .setExtension('KHR_materials_unlit', unlit.createUnlit());
  const png = pngs.get(picture.key);
  if (png) {
    material.setBaseColorTexture(textureOf(document, picture.key, plane.name, png));
    const wrap = (tiled: boolean) => (tiled ? REPEAT : CLAMP_TO_EDGE);
    material
      .getBaseColorTextureInfo()
      ?.setWrapS(wrap(repeatsAcross(plane.repeat)))
      .setWrapT(wrap(repeatsDown(plane.repeat)));
  }
  if (moves(opacities)) {
    const values = accessorOf(
      making,
      opacities.flatMap((opacity) => [1, 1, 1, opacity]),
      4,
    );
    pointer.point({ pointed: { of: 'colour', material }, times, values });
  }
  return material;
}

/** One texture a picture, however many planes show it; told apart by the key as its address. */
function textureOf(document: Document, key: string, name: string, png: Uint8Array) {
  const known = document
    .getRoot()
    .listTextures()
    .find((texture) => texture.getExtras().key === key);
  return (
    known ??
    document.createTexture(name).setMimeType('image/png').setImage(new Uint8Array(png)).setExtras({ key })
  );
}
