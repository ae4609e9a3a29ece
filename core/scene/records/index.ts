export { channelOf, colourRecordOf, keysOf, recordOf } from './key-records.ts';
export { markersOf } from './markers.ts';
export { mergedOrder } from './order.ts';
export { type ListedPin, pinsOf } from './pins.ts';
export { planeOf, planesOf, withEachPlane, withPlaneList, withPlanes } from './planes.ts';
