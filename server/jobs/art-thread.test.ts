import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import type { KeptImage } from '../art/keep-image.ts';
import { openRasterOf, solidPng } from '../testing/art.ts';
import { ArtThread } from './art-thread.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-thread-'));
const thread = new ArtThread(folder);
afterAll(() => {
  thread.close();
  rmSync(folder, { recursive: true, force: true });
});

const read = (fileName: string, bytes: Uint8Array) => ({
  kind: 'read' as const,
  fileName,
  bytes,
  svgScale: 1,
});
const onImage = () => {};

describe('the thread for images', () => {
  it('reads a document, tells how far it is, hands every image over and leaves their levels', async () => {
    const pngs = await Promise.all([1, 2, 3, 4].map((i) => solidPng(40 * i, 30, { r: 50 * i, g: 9, b: 9 })));
    const file = openRasterOf(
      pngs.map((png, i) => ({ name: `L${i}`, png, x: 0, y: 0 })),
      200,
      30,
    );
    const images: KeptImage[] = [];
    const seen: number[] = [];
    const result = await thread.run(read('four.ora', file), {
      onImage: (image) => images.push(image),
      onProgress: (done, total) => {
        expect(total).toBe(4);
        seen.push(done);
      },
    });
    expect(result).toMatchObject({ ok: true, value: { kind: 'paintings' } });
    expect(images).toHaveLength(4);
    expect(seen.at(-1)).toBe(4);
    for (const { art } of images) expect(existsSync(join(folder, `${art.id}.levels`))).toBe(true);
  });

  it('does tasks one after another, and a file that cannot be read harms none of them', async () => {
    const good = await solidPng(8, 8, { r: 1, g: 2, b: 3 });
    const [first, bad, last] = await Promise.all([
      thread.run(read('a.png', good), { onImage }),
      thread.run(read('b.png', new Uint8Array([1, 2, 3])), { onImage }),
      thread.run(read('c.png', good), { onImage }),
    ]);
    expect([first.ok, bad.ok, last.ok]).toEqual([true, false, true]);
  });

  it('gives a cancelled task up at once, and the next one gets a fresh thread', async () => {
    const large = await sharp({ create: { width: 5000, height: 4000, channels: 4, background: '#204060' } })
      .png({ compressionLevel: 1 })
      .toBuffer();
    const abort = new AbortController();
    const running = thread.run(read('large.png', new Uint8Array(large)), { onImage, signal: abort.signal });
    setTimeout(() => abort.abort(new Error('given up')), 30);
    await expect(running).rejects.toThrow('given up');
    await expect(
      thread.run(read('x.png', new Uint8Array([1])), {
        onImage,
        signal: AbortSignal.abort(new Error('too late')),
      }),
    ).rejects.toThrow('too late');
    const after = await thread.run(read('d.png', await solidPng(9, 9, { r: 4, g: 5, b: 6 })), { onImage });
    expect(after.ok).toBe(true);
    expect(readdirSync(folder).every((name) => name.endsWith('.levels') || name.endsWith('.part'))).toBe(
      true,
    );
  });

  it('merges, straightens and encodes', async () => {
    const png = await solidPng(3, 3, { r: 100, g: 50, b: 25, alpha: 0.5 });
    const merged = await thread.run(
      { kind: 'merge', layers: [-1, 2].map((xPx) => ({ png, xPx, yPx: 0, opacity: 1 })) },
      { onImage },
    );
    expect(
      merged.ok && merged.value.kind === 'image' && [merged.value.xPx, merged.value.image.art.widthPx],
    ).toEqual([-1, 6]);
    const straight = await thread.run({ kind: 'straighten', png }, { onImage });
    expect(straight.ok).toBe(true);
    const short = { kind: 'encode' as const, pixels: new Uint8Array(10), widthPx: 2, heightPx: 2 };
    expect(await thread.run(short, { onImage })).toMatchObject({ ok: false, error: { code: 'damaged' } });
  });
});
