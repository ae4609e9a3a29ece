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

const bytesOf = (size: number, write: (view: DataView) => void): Buffer => {
  const out = new Uint8Array(size);
  write(new DataView(out.buffer));
  return Buffer.from(out);
};
const u16 = (...values: number[]) =>
  bytesOf(values.length * 2, (view) => {
    for (const [i, v] of values.entries()) view.setUint16(i * 2, v & 0xffff);
  });
const u32 = (...values: number[]) =>
  bytesOf(values.length * 4, (view) => {
    for (const [i, v] of values.entries()) view.setInt32(i * 4, v);
  });

/**
 * A PSD of 16 bit a channel with one layer, put together by hand after the public file format description: the layer
 * lies in an Lr16 block, its channels as plain big-endian samples. `samples`: RGBA, 0 to 65 535, four a pixel.
 */
export function deepPsd(samples: readonly number[], width: number, height: number): Uint8Array {
  const plane = (channel: number) => u16(...samples.filter((_, i) => i % 4 === channel));
  const channels = [3, 0, 1, 2].map((channel) => Buffer.concat([u16(0), plane(channel)]));
  const ids = [-1, 0, 1, 2];
  const extra = Buffer.concat([u32(0, 0), Buffer.from([4]), Buffer.from('Deep'), Buffer.alloc(3)]);
  const layer = Buffer.concat([
    u16(1),
    u32(0, 0, height, width),
    u16(4),
    ...ids.map((id, i) => Buffer.concat([u16(id), u32(channels[i]!.length)])),
    Buffer.from('8BIMnorm'),
    Buffer.from([255, 0, 0, 0]),
    u32(extra.length),
    extra,
    ...channels,
  ]);
  const padded = Buffer.concat([layer, Buffer.alloc((4 - (layer.length % 4)) % 4)]);
  const section = Buffer.concat([u32(0, 0), Buffer.from('8BIMLr16'), u32(padded.length), padded]);
  return new Uint8Array(
    Buffer.concat([
      Buffer.from('8BPS'),
      u16(1),
      Buffer.alloc(6),
      u16(4),
      u32(height, width),
      u16(16, 3),
      u32(0, 0),
      u32(section.length),
      section,
      u16(0),
      ...[0, 1, 2, 3].map(plane),
    ]),
  );
}

/** A PSD with an ICC profile put in front of its other image resources (resource 1039). */
export function withProfile(psd: Uint8Array, profile: Uint8Array): Uint8Array {
  const view = new DataView(psd.buffer, psd.byteOffset, psd.byteLength);
  const at = 30 + view.getUint32(26);
  const resource = Buffer.concat([
    Buffer.from('8BIM'),
    u16(1039, 0),
    u32(profile.length),
    profile,
    Buffer.alloc(profile.length & 1),
  ]);
  const length = u32(view.getUint32(at) + resource.length);
  return new Uint8Array(Buffer.concat([psd.subarray(0, at), length, resource, psd.subarray(at + 4)]));
}
