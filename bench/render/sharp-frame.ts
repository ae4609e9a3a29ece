import type { Raster } from '@keen-ridge/core/image';
import type { FramePlan } from '@keen-ridge/core/staging/frame';
import sharp from 'sharp';

/**
 * The same frame through sharp (libvips): each plane by one bilinear affine over what its part of the frame needs,
 * then one composite of all. This is how one would do it with that library; it uses all cores by itself.
 */
export async function sharpFrame(
  plan: FramePlan,
  images: ReadonlyMap<string, Raster<'straight'>>,
): Promise<Buffer> {
  const { widthPx, heightPx } = plan;
  const overlays = await Promise.all(
    plan.planes.map(async (plane) => {
      const image = plane.shown.kind === 'image' ? images.get(plane.shown.art.id) : undefined;
      const m = plane.artToFrame;
      if (!image || !m) throw new Error('The bench scenes draw every plane');
      const raw = { width: image.widthPx, height: image.heightPx, channels: 4 as const };
      const region = sourceRegion(m, image, widthPx, heightPx);
      const input = await sharp(image.data, { raw })
        .extract(region)
        .affine([m.a, m.c, m.b, m.d], { background: '#00000000', interpolator: 'bilinear' })
        .raw()
        .toBuffer({ resolveWithObject: true });
      const at = topLeft(m, region);
      const left = Math.round(at.x);
      const top = Math.round(at.y);
      const crop = {
        left: Math.max(0, -left),
        top: Math.max(0, -top),
        width: Math.min(widthPx, input.info.width + left) - Math.max(0, left),
        height: Math.min(heightPx, input.info.height + top) - Math.max(0, top),
      };
      const cut = await sharp(input.data, {
        raw: { width: input.info.width, height: input.info.height, channels: 4 },
      })
        .extract(crop)
        .raw()
        .toBuffer();
      return {
        input: cut,
        raw: { width: crop.width, height: crop.height, channels: 4 as const },
        left: Math.max(0, left),
        top: Math.max(0, top),
        blend: plane.mode === 'multiply' || plane.mode === 'screen' ? plane.mode : ('over' as const),
      };
    }),
  );
  const ground = sharp({ create: { width: widthPx, height: heightPx, channels: 4, background: '#000000' } });
  return ground.composite(overlays).raw().toBuffer();
}

interface Map2 {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

/** Art px that can land in the frame, with a margin for the interpolator. */
function sourceRegion(m: Map2, image: Raster, widthPx: number, heightPx: number) {
  const det = m.a * m.d - m.b * m.c;
  const back = (x: number, y: number) =>
    [(m.d * (x - m.e) - m.c * (y - m.f)) / det, (m.a * (y - m.f) - m.b * (x - m.e)) / det] as const;
  const corners = [back(0, 0), back(widthPx, 0), back(0, heightPx), back(widthPx, heightPx)];
  const left = Math.max(0, Math.floor(Math.min(...corners.map(([x]) => x))) - 2);
  const top = Math.max(0, Math.floor(Math.min(...corners.map(([, y]) => y))) - 2);
  const right = Math.min(image.widthPx, Math.ceil(Math.max(...corners.map(([x]) => x))) + 2);
  const bottom = Math.min(image.heightPx, Math.ceil(Math.max(...corners.map(([, y]) => y))) + 2);
  return { left, top, width: right - left, height: bottom - top };
}

function topLeft(
  m: Map2,
  { left, top, width, height }: { left: number; top: number; width: number; height: number },
) {
  const corners = [
    [left, top],
    [left + width, top],
    [left, top + height],
    [left + width, top + height],
  ] as const;
  return {
    x: Math.min(...corners.map(([x, y]) => m.a * x + m.c * y + m.e)),
    y: Math.min(...corners.map(([x, y]) => m.b * x + m.d * y + m.f)),
  };
}
