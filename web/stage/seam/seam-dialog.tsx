import { setClosedSeam } from '@keen-ridge/core/edits/runs';
import { closeSeam, fadeWidth, measureSeam, type Raster, type SeamAxis } from '@keen-ridge/core/image';
import type { ArtRef, Plane } from '@keen-ridge/core/scene';
import { repeatsAcross, repeatsDown } from '@keen-ridge/core/staging';
import { shownArts } from '@keen-ridge/core/staging/content';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { storePixels } from '../../api/art.ts';
import { fetchPixels } from '../../picture/live/art-loader.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog } from '../../ui/dialog.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { settingTrial } from '../../ui/trial.ts';
import { stageWords as say } from '../../words/stage.ts';

const AXIS_WORDS = { across: 'E–W', down: 'N–S' } as const;

/** Two copies side by side where they meet, how far they differ there, and the offer to fade them into one another. */
export function SeamDialog({ plane }: { plane: Plane }) {
  const [open, setOpen] = useState(false);
  const [art] = shownArts(plane.content);
  if (!art) return null;
  const axes = [
    ...(repeatsAcross(plane.repeat) ? (['across'] as const) : []),
    ...(repeatsDown(plane.repeat) ? (['down'] as const) : []),
  ];
  return (
    <>
      <Button onClick={() => setOpen(true)}>{say.seam}</Button>
      {open && (
        <Dialog open onClose={() => setOpen(false)} title={say.seamOfName(plane.name)} width={520}>
          <Seams plane={plane} art={art} axes={axes} onDone={() => setOpen(false)} />
        </Dialog>
      )}
    </>
  );
}

interface SeamsProps {
  plane: Plane;
  art: ArtRef;
  axes: readonly SeamAxis[];
  onDone: () => void;
}

function Seams({ plane, art, axes, onDone }: SeamsProps) {
  const pixels = useQuery({
    queryKey: ['pixels', art.id],
    queryFn: () => fetchPixels(art),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
  if (pixels.isError) return <p className="text-fault">{say.theArtCouldNotBe}</p>;
  if (!pixels.data) return <p role="status">{say.readingTheArt}</p>;
  return axes.map((axis) => (
    <OneSeam key={axis} plane={plane} image={pixels.data} axis={axis} onDone={onDone} />
  ));
}

function OneSeam({
  plane,
  image,
  axis,
  onDone,
}: {
  plane: Plane;
  image: Raster<'straight'>;
  axis: SeamAxis;
  onDone: () => void;
}) {
  const session = useSession();
  const seam = measureSeam(image, axis);
  const size = axis === 'across' ? image.widthPx : image.heightPx;
  const [wished, setWished] = useState(Math.max(8, Math.round(size * 0.04)));
  const [state, setState] = useState<'idle' | 'busy' | 'failed'>('idle');
  const fade = fadeWidth(size, wished);
  const canFade = fade !== null && plane.content.kind === 'still' && !plane.locked;
  const close = async () => {
    if (fade === null) return;
    setState('busy');
    try {
      const art = await storePixels(closeSeam(image, axis, fade));
      const next = setClosedSeam(session.state.scene, plane.id, art, { axis, fadePx: fade });
      session.commit('set-content', plane.name, next);
      onDone();
    } catch {
      setState('failed');
    }
  };
  return (
    <section aria-label={say.seamAxis(AXIS_WORDS[axis])} className="mb-4">
      <SeamPicture image={image} axis={axis} at={seam.worstAt} />
      <p className="mt-2" data-testid={`seam-${axis}`}>
        {say.axisTheEdgesDifferBy(AXIS_WORDS[axis], formatNumber(seam.step, 1), formatNumber(seam.inside, 1))}
        {seam.visible ? <b className="text-fault">{say.theSeamWillBeSeen}</b> : say.itWillNotBeSeen}
      </p>
      {size % 2 === 1 && <p className="text-ink-2">{say.sizePxIsOddShown(size)}</p>}
      {canFade ? (
        <div className="mt-2 flex items-end gap-2">
          <NumberField
            className="w-32"
            label={say.fadeOverAbout}
            unit="px"
            min={2}
            max={Math.floor(size / 2)}
            value={wished}
            trial={settingTrial(wished, (v) => setWished(Math.round(v)))}
          />
          <Button disabled={state === 'busy'} onClick={() => void close()}>
            {state === 'busy' ? say.fading : say.fadeTheEdgeLeavingValue(size - fade)}
          </Button>
        </div>
      ) : (
        <p className="text-ink-2">
          {plane.content.kind === 'still' ? say.aFadeThatWideWould : say.onlyTheEdgeOfStill}
        </p>
      )}
      {state === 'failed' && (
        <p role="alert" className="text-fault">
          {say.theFadedArtCouldNot}
        </p>
      )}
    </section>
  );
}

const CLOSE_UP = { px: 80, across: 480, down: 120 } as const;

/** The end of one copy and the beginning of the next, large, at the place where they differ most. */
function SeamPicture({ image, axis, at }: { image: Raster<'straight'>; axis: SeamAxis; at: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const wide = axis === 'across';
  const [w, h] = wide ? [CLOSE_UP.px * 2, CLOSE_UP.px / 2] : [CLOSE_UP.px * 2, CLOSE_UP.px];
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const out = new ImageData(w, h);
    const within = (v: number, size: number) => ((v % size) + size) % size;
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const [u, v] = wide ? [x - w / 2, at - h / 2 + y] : [at - w / 2 + x, y - h / 2];
        const from =
          (within(Math.floor(v), image.heightPx) * image.widthPx + within(Math.floor(u), image.widthPx)) * 4;
        out.data.set(image.data.subarray(from, from + 4), (y * w + x) * 4);
      }
    }
    context.putImageData(out, 0, 0);
  }, [image, at, w, h, wide]);
  return (
    <div
      className="relative bg-[#7d7d7d]"
      style={{ width: CLOSE_UP.across, height: wide ? CLOSE_UP.down : 240 }}
    >
      <canvas
        ref={canvas}
        width={w}
        height={h}
        aria-label={say.twoCopiesWhereTheyMeet}
        className="h-full w-full [image-rendering:pixelated]"
      />
      <div
        aria-hidden="true"
        className={
          wide ? 'absolute top-0 left-1/2 h-2 w-px bg-signal' : 'absolute top-1/2 left-0 h-px w-2 bg-signal'
        }
      />
    </div>
  );
}
