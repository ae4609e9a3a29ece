import type { Paint } from '../../paint/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { newPlane } from '../../staging/content/index.ts';
import { carrierOf, seenBox } from '../../staging/index.ts';
import { addPlanes, insertPlanes, setPlaneContent, setPlaneTransform } from '../planes/index.ts';

/** Spare paint beyond what the move shows, as a share of the size. */
const SPARE = 0.02;

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
