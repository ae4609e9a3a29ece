import { applyAffine, type Box, invertAffine, type Point } from '../../geometry/index.ts';
import type { Paint } from '../../look/index.ts';
import { type Carrier, homePose, ON_STAGE, placePlane } from '../../stage/index.ts';
import { cameraPoseAt, stageFrameOf } from '../camera-at.ts';
import { newPlane } from '../new-plane.ts';
import { planeOf } from '../planes.ts';
import type { PlaneId, Scene } from '../scene.ts';
import { carrierOf } from '../standings.ts';
import { addPlanes, insertPlanes, setPlaneContent, setPlaneTransform } from './planes.ts';

/** Spare paint beyond what the move shows, as a share of the size. */
const SPARE = 0.02;

/**
 * The smallest upright box, in px of the carrier, that every frame of the shot sees on a plane at `depthSpx` from it;
 * null when the camera is past the plane all through.
 */
export function seenBox(scene: Scene, depthSpx: number, carrier: Carrier = ON_STAGE): Box | null {
  const standing = {
    root: carrier.root,
    depthSpx: carrier.depthSpx + carrier.depthScale * depthSpx,
    artToStage: carrier.toStage,
  };
  const { widthPx, heightPx } = scene.frame;
  const corners = [
    { x: 0, y: 0 },
    { x: widthPx, y: 0 },
    { x: 0, y: heightPx },
    { x: widthPx, y: heightPx },
  ];
  const frame = stageFrameOf(scene);
  let box: Box | null = null;
  const poses = [
    homePose(frame),
    ...Array.from({ length: scene.lengthFrames }, (_, i) => cameraPoseAt(scene, i + 1)),
  ];
  for (const pose of poses) {
    const { artToFrame } = placePlane(frame, pose, standing);
    const back = artToFrame && invertAffine(artToFrame);
    if (back) for (const corner of corners) box = withPoint(box, applyAffine(back, corner));
  }
  return box;
}

/** The box grown so that the point lies in it. */
const withPoint = (box: Box | null, { x, y }: Point): Box =>
  box
    ? { x0: Math.min(box.x0, x), y0: Math.min(box.y0, y), x1: Math.max(box.x1, x), y1: Math.max(box.y1, y) }
    : { x0: x, y0: y, x1: x, y1: y };

/** Sizes and places a card so that it fills every frame of the shot; other planes stay as they are. */
export function coverCard(scene: Scene, id: PlaneId): Scene {
  const plane = planeOf(scene, id);
  if (plane?.content.kind !== 'card') return scene;
  const box = seenBox(scene, plane.depthSpx, carrierOf(scene, plane, 1));
  if (!box) return scene;
  const [wide, high] = [box.x1 - box.x0, box.y1 - box.y0];
  const widthPx = Math.ceil(wide * (1 + 2 * SPARE));
  const heightPx = Math.ceil(high * (1 + 2 * SPARE));
  const sized = setPlaneContent(scene, id, { ...plane.content, widthPx, heightPx });
  return setPlaneTransform(sized, id, {
    xSpx: (box.x0 + box.x1) / 2,
    ySpx: (box.y0 + box.y1) / 2,
    scaleX: 1,
    scaleY: 1,
    rotationDeg: 0,
    skew: 0,
    anchorXArtPx: widthPx / 2,
    anchorYArtPx: heightPx / 2,
  });
}

/** A new card that fills the whole move at `depthSpx`: on top of the list, or before the plane `before`. */
export function addCard(
  scene: Scene,
  card: { id: PlaneId; name: string; paint: Paint; depthSpx: number; before?: PlaneId | null },
): Scene {
  const { widthPx, heightPx } = scene.frame;
  const content = { kind: 'card', widthPx, heightPx, paint: card.paint } as const;
  const plane = { ...newPlane(card.id, card.name, content), depthSpx: card.depthSpx };
  const added =
    card.before === undefined ? addPlanes(scene, [plane]) : insertPlanes(scene, [plane], card.before);
  return coverCard(added, card.id);
}
