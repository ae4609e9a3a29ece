import type { PlaneId } from '@keen-ridge/core/scene';
import {
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineLoop,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  PerspectiveCamera,
  Raycaster,
  Scene as ThreeScene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Card, Cone, Point3 } from './stage-model.ts';
import { CardTextures } from './textures.ts';

const SELECT = '#0b6e75';
const SIGNAL = '#c8401a';
const EDGE = '#1a1a1a';

/** The orbit view: cards, the cone of view, and a camera that goes round them. Draws only when something changed. */
export class OrbitScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new ThreeScene();
  private readonly camera = new PerspectiveCamera(35, 1, 10, 1e7);
  private readonly controls: OrbitControls;
  private readonly cards = new Group();
  private readonly cone = new Group();
  private readonly textures: CardTextures;
  private queued = 0;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    this.textures = new CardTextures(() => this.draw());
    this.scene.add(this.cards, this.cone);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.draw());
  }

  /** Looks at the stage from behind the camera, to its left and above it. */
  lookFrom(homeDistanceSpx: number): void {
    // A narrow room must stand farther off to take in the same.
    const d = homeDistanceSpx * Math.max(1, 1.15 / this.camera.aspect);
    this.camera.position.set(-1.75 * d, 1.15 * d, 2.5 * d);
    this.controls.target.set(-0.1 * homeDistanceSpx, 0.15 * homeDistanceSpx, -0.4 * homeDistanceSpx);
    this.controls.update();
    this.draw();
  }

  resize(width: number, height: number, grey: number): void {
    this.renderer.setPixelRatio(window.devicePixelRatio);
    this.renderer.setSize(width, height, false);
    this.scene.background = new Color(`rgb(${grey}, ${grey}, ${grey})`);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  showCards(cards: readonly Card[], selection: readonly PlaneId[]): void {
    clear(this.cards);
    for (const card of cards) this.cards.add(...this.cardObjects(card, selection.includes(card.id)));
    this.draw();
  }

  showCone({ apex, onDatum, farthest }: Cone): void {
    clear(this.cone);
    const rays = farthest.flatMap((corner) => [apex, corner]);
    this.cone.add(lines(rays, SIGNAL, 0.55));
    if (onDatum) this.cone.add(loop(onDatum, SIGNAL, 1));
    this.draw();
  }

  private cardObjects(card: Card, selected: boolean) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new Float32BufferAttribute(card.corners.flat(), 3));
    geometry.setAttribute('uv', new Float32BufferAttribute(card.uvs.flat(), 2));
    geometry.setIndex([0, 2, 1, 0, 3, 2]);
    const mesh = new Mesh(
      geometry,
      new MeshBasicMaterial({
        map: this.textures.of(card.plane, card.artId),
        transparent: true,
        alphaTest: 0.04,
        side: DoubleSide,
        opacity: card.plane.opacity,
      }),
    );
    mesh.userData.planeId = card.id;
    return [mesh, loop(card.corners, selected ? SELECT : EDGE, selected ? 1 : 0.25)];
  }

  /** The plane whose card is nearest under a point of the canvas (CSS px), or null. */
  planeAt(x: number, y: number): PlaneId | null {
    const { width, height } = this.size;
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((2 * x) / width - 1, 1 - (2 * y) / height), this.camera);
    const hit = ray
      .intersectObjects(this.cards.children, false)
      .find(
        ({ object, uv }) =>
          object instanceof Mesh && uv && this.textures.hasPaintAt(object.material.map, uv.x, uv.y),
      );
    return (hit?.object.userData.planeId as PlaneId | undefined) ?? null;
  }

  /** How far one px of depth moves a point of the stage on the canvas, CSS px. */
  depthStep(at: Point3): { x: number; y: number } {
    const { width, height } = this.size;
    const project = (z: number) => new Vector3(at[0], at[1], z).project(this.camera);
    const [p, q] = [project(at[2]), project(at[2] - 1)];
    return { x: ((q.x - p.x) * width) / 2, y: ((p.y - q.y) * height) / 2 };
  }

  /** Whether a drag goes round the stage. */
  set orbiting(on: boolean) {
    this.controls.enabled = on;
  }

  private get size(): { width: number; height: number } {
    const { clientWidth: width, clientHeight: height } = this.renderer.domElement;
    return { width, height };
  }

  private draw(): void {
    if (this.queued) return;
    this.queued = requestAnimationFrame(() => {
      this.queued = 0;
      this.renderer.render(this.scene, this.camera);
      this.renderer.domElement.dataset.cards = String(this.cards.children.length / 2);
    });
  }

  close(): void {
    cancelAnimationFrame(this.queued);
    this.controls.dispose();
    clear(this.cards);
    clear(this.cone);
    this.textures.dispose();
    this.renderer.dispose();
  }
}

const lineMaterial = (colour: string, opacity: number) =>
  new LineBasicMaterial({ color: colour, transparent: true, opacity });

const geometryOf = (points: readonly Point3[]): BufferGeometry =>
  new BufferGeometry().setAttribute('position', new Float32BufferAttribute(points.flat(), 3));

const lines = (points: readonly Point3[], colour: string, opacity: number) =>
  new LineSegments(geometryOf(points), lineMaterial(colour, opacity));
const loop = (points: readonly Point3[], colour: string, opacity: number) =>
  new LineLoop(geometryOf(points), lineMaterial(colour, opacity));

function clear(group: Group): void {
  for (const child of [...group.children]) {
    group.remove(child);
    if (child instanceof Mesh || child instanceof LineSegments || child instanceof LineLoop) {
      child.geometry.dispose();
      child.material.dispose();
    }
  }
}
