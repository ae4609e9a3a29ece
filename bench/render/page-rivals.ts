export interface PageJob {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rounds: number;
  /** First byte behind the images. */
  readonly end: number;
  /** Far to near. */
  readonly planes: readonly {
    id: string;
    widthPx: number;
    heightPx: number;
    mode: GlobalCompositeOperation;
  }[];
  /** The pictures to draw of them, one after the other. */
  readonly pictures: readonly {
    readonly table: readonly number[];
    readonly count: number;
    readonly scratchBytes: number;
    /** From each plane's art to the frame. */
    readonly maps: readonly (readonly number[])[];
  }[];
}
type PagePicture = PageJob['pictures'][number];

/**
 * Runs in the page, alone: nothing of this module but what stands inside. Of each picture, medians of interleaved rounds,
 * ms a frame, each until its pixels are on its canvas.
 */
export async function drawInPage(job: PageJob) {
  const { widthPx, heightPx, rounds } = job;
  const middle = (values: number[]) =>
    values.sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? Number.NaN;
  // None is in the page: putting three large canvases together on the screen would take more time than any takes to draw.
  const canvasOf = () => {
    const canvas = document.createElement('canvas');
    canvas.width = widthPx;
    canvas.height = heightPx;
    return canvas;
  };
  const context2d = (canvas: HTMLCanvasElement) => {
    const context = canvas.getContext('2d', { alpha: false });
    if (!context) throw new Error('no 2D canvas');
    return context;
  };

  // The kernel: bands of rows shared by one worker a core.
  const workers = navigator.hardwareConcurrency;
  const tableAt = job.end;
  const most = (of: (picture: PagePicture) => number) =>
    Math.ceil(Math.max(...job.pictures.map(of)) / 64) * 64;
  const tableEach = most(({ table }) => table.length);
  const scratchAt = tableAt + tableEach + 64;
  const scratchEach = most(({ scratchBytes }) => scratchBytes);
  // Every worker has a table of its own: the kernel writes into it.
  const tablesAt = scratchAt + workers * scratchEach;
  const outAt = tablesAt + workers * tableEach;
  const stopAt = outAt + widthPx * heightPx * 4;
  const takenAt = stopAt + 4;
  const pages = Math.ceil((stopAt + 64) / 65_536);
  const memory = new WebAssembly.Memory({ initial: pages, maximum: 65_536, shared: true });
  const all = new Uint8Array(memory.buffer);
  all.set(new Uint8Array(await (await fetch('/memory')).arrayBuffer()));
  const module = await WebAssembly.compileStreaming(fetch('/kernel.wasm'));
  const source = `onmessage = ({ data }) => {
    if (data.module) {
      globalThis.kernel = new WebAssembly.Instance(data.module, { env: { memory: data.memory } }).exports;
      postMessage(0);
    } else { kernel.renderRows(...data); postMessage(0); }
  }`;
  const url = URL.createObjectURL(new Blob([source], { type: 'text/javascript' }));
  const pool = await Promise.all(
    Array.from({ length: workers }, async () => {
      const worker = new Worker(url);
      const answer = () =>
        new Promise<void>((resolve) => {
          worker.onmessage = () => resolve();
        });
      const ready = answer();
      worker.postMessage({ module, memory });
      await ready;
      return (values: number[]) => {
        const done = answer();
        worker.postMessage(values);
        return done;
      };
    }),
  );
  // Nothing is drawn on it but whole pictures: it need not live on the graphics side.
  const own = canvasOf().getContext('2d', { alpha: false, willReadFrequently: true });
  if (!own) throw new Error('no 2D canvas');
  const picture = new ImageData(widthPx, heightPx);
  const kernel = async ({ table, count }: PagePicture) => {
    new Int32Array(memory.buffer, takenAt, 1)[0] = 0;
    await Promise.all(
      pool.map((render, i) => {
        const at = tablesAt + i * tableEach;
        all.set(table, at);
        return render([
          at,
          count,
          scratchAt + i * scratchEach,
          outAt,
          widthPx,
          heightPx,
          0xff000000,
          0,
          0,
          stopAt,
          takenAt,
        ]);
      }),
    );
    picture.data.set(all.subarray(outAt, outAt + widthPx * heightPx * 4));
    own.putImageData(picture, 0, 0);
  };

  // A 2D canvas with the images as bitmaps.
  const bitmaps = await Promise.all(
    job.planes.map(async ({ id, widthPx: w, heightPx: h }) => {
      const bytes = new Uint8ClampedArray(await (await fetch(`/art/${id}`)).arrayBuffer());
      return createImageBitmap(new ImageData(bytes, w, h));
    }),
  );
  const flat = context2d(canvasOf());
  const canvas = ({ maps }: PagePicture) => {
    flat.resetTransform();
    flat.globalCompositeOperation = 'source-over';
    flat.fillStyle = '#000';
    flat.fillRect(0, 0, widthPx, heightPx);
    flat.imageSmoothingQuality = 'low';
    job.planes.forEach(({ mode }, i) => {
      flat.globalCompositeOperation = mode;
      flat.setTransform(...(maps[i] as [number, number, number, number, number, number]));
      flat.drawImage(bitmaps[i]!, 0, 0);
    });
    flat.getImageData(widthPx / 2, heightPx / 2, 1, 1);
  };

  // WebGL by three: a textured rectangle a plane, far to near, blended.
  const address = '/three.module.js';
  const three = await import(address);
  const glCanvas = canvasOf();
  const renderer = new three.WebGLRenderer({ canvas: glCanvas, preserveDrawingBuffer: true });
  renderer.setPixelRatio(1);
  renderer.setSize(widthPx, heightPx, false);
  const scene = new three.Scene();
  const camera = new three.OrthographicCamera(0, widthPx, 0, heightPx, -10, 10);
  const meshes = job.planes.map((_, i) => {
    const texture = new three.Texture(bitmaps[i]);
    texture.needsUpdate = true;
    texture.flipY = false;
    const material = new three.MeshBasicMaterial({
      map: texture,
      transparent: true,
      depthTest: false,
      side: 2,
    });
    const mesh = new three.Mesh(new three.PlaneGeometry(1, 1), material);
    mesh.matrixAutoUpdate = false;
    mesh.renderOrder = i;
    scene.add(mesh);
    return mesh;
  });
  const gl = renderer.getContext();
  const webgl = ({ maps }: PagePicture) => {
    job.planes.forEach(({ widthPx: w, heightPx: h }, i) => {
      const [a, b, c, d, e, f] = maps[i]!;
      meshes[i].matrix.set(
        ...[a! * w, c! * h, 0, a! * (w / 2) + c! * (h / 2) + e!],
        ...[b! * w, d! * h, 0, b! * (w / 2) + d! * (h / 2) + f!],
        ...[0, 0, 1, 0],
        ...[0, 0, 0, 1],
      );
    });
    renderer.render(scene, camera);
    gl.readPixels(widthPx / 2, heightPx / 2, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  };

  const measured = [];
  for (const one of job.pictures) {
    const times = { kernel: [] as number[], canvas: [] as number[], webgl: [] as number[] };
    for (let round = 0; round <= rounds; round++) {
      for (const [name, draw] of [
        ['kernel', kernel],
        ['canvas', canvas],
        ['webgl', webgl],
      ] as const) {
        const start = performance.now();
        await draw(one);
        // The first round warms up: shaders, code, textures.
        if (round > 0) times[name].push(performance.now() - start);
      }
    }
    measured.push({
      kernelMs: middle(times.kernel),
      canvasLowMs: middle(times.canvas),
      webglMs: middle(times.webgl),
    });
  }
  return measured;
}
