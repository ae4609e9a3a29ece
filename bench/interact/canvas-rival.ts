/**
 * Runs in the page. The named alternative: as many bitmaps drawn by a plain 2D canvas with the same sway, frames a
 * second over `ms`. Each bitmap is already as large as it is shown, which a program could not do for a zooming camera;
 * one px is read back every frame, so that what was asked for is really drawn.
 */
export async function drawWithCanvas({
  count,
  widthPx,
  heightPx,
  ms,
}: {
  readonly count: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly ms: number;
}): Promise<number> {
  const bitmaps = await Promise.all(
    Array.from({ length: count }, async (_, i) => {
      const canvas = new OffscreenCanvas(Math.ceil(widthPx * 1.3), Math.ceil(heightPx * 1.3));
      const context = canvas.getContext('2d');
      if (!context) throw new Error('no 2D canvas');
      context.lineCap = 'round';
      for (let k = 0; k < 120; k++) {
        context.strokeStyle = `hsl(${(i * 37 + k * 11) % 360} 40% 50% / 0.8)`;
        context.lineWidth = 4 + ((k * 7) % 30);
        context.beginPath();
        context.moveTo((k * 131) % canvas.width, (k * 71 + i * 13) % canvas.height);
        context.lineTo(((k * 131) % canvas.width) + 160, ((k * 71 + i * 13) % canvas.height) + 20);
        context.stroke();
      }
      return createImageBitmap(canvas);
    }),
  );
  const target = document.createElement('canvas');
  target.width = widthPx;
  target.height = heightPx;
  document.body.append(target);
  const context = target.getContext('2d', { alpha: false });
  if (!context) throw new Error('no 2D canvas');
  context.imageSmoothingQuality = 'low';
  let frames = 0;
  const start = performance.now();
  await new Promise<void>((resolve) => {
    requestAnimationFrame(function tick(now: number) {
      const sway = Math.sin((now - start) / 640);
      bitmaps.forEach((bitmap, i) => {
        context.setTransform(0.8, 0, 0, 0.8, sway * i * 0.7 - 20, -10);
        context.drawImage(bitmap, 0, 0);
      });
      context.getImageData(0, 0, 1, 1);
      frames += 1;
      if (now - start >= ms) resolve();
      else requestAnimationFrame(tick);
    });
  });
  const fps = (frames * 1000) / (performance.now() - start);
  target.remove();
  for (const bitmap of bitmaps) bitmap.close();
  return fps;
}
