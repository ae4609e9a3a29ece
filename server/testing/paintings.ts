import { randomImage } from '@keen-ridge/core/testing';
import { type Layer, type Psd, writePsdUint8Array } from 'ag-psd';

const pixels = (seed: number, width: number, height: number) => ({
  width,
  height,
  data: new Uint8ClampedArray(randomImage(seed, width, height).data),
});

/** A PSD with what painters leave in them: groups, a mask, a clipped layer, hidden ones, overflowing offsets. */
export function testPsd(part: Partial<Psd> = {}, options: { psb?: boolean } = {}): Uint8Array {
  const mask = {
    left: 10,
    top: 5,
    right: 30,
    bottom: 25,
    defaultColor: 0,
    imageData: {
      width: 20,
      height: 20,
      data: new Uint8ClampedArray(1600).map((_, i) => (i % 4 === 3 ? 255 : (i >> 2) % 256)),
    },
  };
  const children: Layer[] = [
    { name: 'Himmel über See', left: 0, top: 0, imageData: pixels(1, 64, 48), opacity: 1 },
    {
      name: 'Quay',
      opened: true,
      opacity: 0.5,
      children: [
        { name: 'Wall', left: -12, top: 30, imageData: pixels(2, 90, 40) },
        {
          name: 'Shadow',
          left: 5,
          top: 20,
          imageData: pixels(3, 20, 30),
          clipping: true,
          blendMode: 'multiply',
        },
        { name: 'Masked', left: 0, top: 0, imageData: pixels(4, 40, 30), mask },
      ],
    },
    { name: 'Lamp', left: 20, top: 8, imageData: pixels(5, 9, 13), hidden: true, opacity: 102 / 255 },
    { name: 'Nothing here' },
  ];
  return writePsdUint8Array({ width: 64, height: 48, children, ...part }, { ...options });
}
