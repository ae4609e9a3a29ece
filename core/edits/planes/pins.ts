import type { Point, PxMap } from '../../geometry/index.ts';
import { LIMITS, type Pin, type PinId, type Plane, type PlaneId, type Scene } from '../../scene/index.ts';
import { pinsOf, planeOf } from '../../scene/records/index.ts';
import { withPlane } from './with-planes.ts';

/** The pin's name: the one that is asked for, or the first number that no pin of the plane has. */
function freePinName(plane: Plane, wanted: string): string {
  const taken = new Set(pinsOf(plane).map(({ name }) => name));
  if (!taken.has(wanted)) return wanted;
  let number = 2;
  while (taken.has(`${wanted} ${number}`)) number++;
  return `${wanted} ${number}`;
}

/** The plane with these pins; without any it has no word of them. */
function havingPins({ pins: _, ...plane }: Plane, pins: Readonly<Record<PinId, Pin>>): Plane {
  return Object.keys(pins).length === 0 ? plane : { ...plane, pins };
}

const withPins = (scene: Scene, id: PlaneId, change: (pins: Record<PinId, Pin>) => Record<PinId, Pin>) =>
  withPlane(scene, id, (plane) => {
    const before = plane.pins ?? {};
    const after = change(before);
    return after === before ? plane : havingPins(plane, after);
  });

/**
 * A pin at a place of the plane's art, art px. Nothing changes where the plane is gone, has an id like it or has as many
 * as it may.
 */
export function addPin(scene: Scene, id: PlaneId, pinId: PinId, name: string, { x, y }: Point): Scene {
  const plane = planeOf(scene, id);
  if (!plane || pinsOf(plane).length >= LIMITS.pins.max || plane.pins?.[pinId]) return scene;
  const pin: Pin = { name: freePinName(plane, name), xArtPx: x, yArtPx: y };
  return withPins(scene, id, (pins) => ({ ...pins, [pinId]: pin }));
}

const withPin = (scene: Scene, id: PlaneId, pinId: PinId, change: (pin: Pin) => Pin): Scene =>
  withPins(scene, id, (pins) => (pins[pinId] ? { ...pins, [pinId]: change(pins[pinId]) } : pins));

/** To another place of the art, art px. */
export const movePin = (scene: Scene, id: PlaneId, pinId: PinId, { x, y }: Point): Scene =>
  withPin(scene, id, pinId, (pin) => ({ ...pin, xArtPx: x, yArtPx: y }));

/** An empty name leaves the one that it has. */
export const renamePin = (scene: Scene, id: PlaneId, pinId: PinId, name: string): Scene =>
  withPin(scene, id, pinId, (pin) => ({ ...pin, name: name.trim() || pin.name }));

export const deletePin = (scene: Scene, id: PlaneId, pinId: PinId): Scene =>
  withPins(scene, id, (pins) => {
    const { [pinId]: gone, ...left } = pins;
    return gone ? left : pins;
  });

/** The plane's pins on art whose px lie elsewhere: each stays on the paint that it was put on. */
export function withPinsMapped(plane: Plane, { scale, dxPx, dyPx }: PxMap): Plane {
  const { pins } = plane;
  if (!pins) return plane;
  return eachPin(plane, (pin) => ({
    ...pin,
    xArtPx: pin.xArtPx * scale + dxPx,
    yArtPx: pin.yArtPx * scale + dyPx,
  }));
}

/** The plane with only those of its pins. */
export const withPinsThat = (plane: Plane, keeps: (pin: Pin) => boolean): Plane =>
  plane.pins ? eachPin(plane, (pin) => (keeps(pin) ? pin : null)) : plane;

function eachPin(plane: Plane, change: (pin: Pin) => Pin | null): Plane {
  const entries = Object.entries(plane.pins ?? {}).flatMap(([id, pin]) => {
    const next = change(pin);
    return next ? [[id, next]] : [];
  });
  return havingPins(plane, Object.fromEntries(entries));
}
