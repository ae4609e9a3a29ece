import {
  type ImportedNode,
  type ImportedPainting,
  movingLayer,
  paintedLayers,
} from '@keen-ridge/core/art/landing';
import { LARGEST_SVG_SCALE } from '@keen-ridge/core/contract';
import { fitScale } from '@keen-ridge/core/edits/art';
import { rationalText } from '@keen-ridge/core/units';
import { useMemo, useState } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { counted, formatNumber } from '../ui/format.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import {
  changePainting,
  changePart,
  filesOf,
  groupKeys,
  type LookedAt,
  layerCount,
  planesFrom,
  rescaleDrawing,
  setPremultiplied,
  useImport,
} from './import-store.ts';
import { landingLayers } from './landing.ts';
import { LayerTree } from './layer-tree.tsx';
import { SetKindChoice, SetList } from './set-list.tsx';
import { SizeNotes } from './size-notes.tsx';
import { VersionList } from './version-list.tsx';

const COMES_IN = ['version', 'planes'] as const;
const ALPHA_KINDS = ['straight', 'premultiplied'] as const;
const ALPHA_WORDS = { straight: say.straight, premultiplied: say.premultiplied } as const;

/** One painting before it lands: its picture, its layers and what becomes of them, its size, and what was lost. */
export function LookAtPainting({ index, looked }: { index: number; looked: LookedAt }) {
  const session = useSession();
  const frame = useSessionState((state) => state.scene.frame);
  const rate = useSessionState((state) => state.scene.rate);
  const place = useImport((state) => state.place);
  const { painting, merged, left, asVersion } = looked;
  const landing = useMemo(() => landingLayers(looked, rate), [looked, rate]);
  const [list, setList] = useState<HTMLElement | null>(null);
  const groups = groupKeys(painting.nodes);
  const before = planesFrom(session, filesOf(looked)).length;
  const planes = planeCount(painting.nodes, merged, left);
  return (
    <div className="grid h-[min(56vh,520px)] grid-cols-[minmax(0,1fr)_470px] gap-4">
      <div className="flex min-h-0 min-w-0 flex-col gap-2">
        <PaintingPicture painting={painting} left={left} />
        <p className="num shrink-0 text-ink-2">
          {formatNumber(painting.widthPx)} × {formatNumber(painting.heightPx)}
          {say.px} {counted(layerCount(painting.nodes), 'layer')} · {counted(planes, 'plane')}
        </p>
        <div className="max-h-[110px] shrink-0 overflow-auto">
          <SizeNotes looked={looked} landing={landing} scale={fitScale(place.fit, painting, frame)} />
          {painting.notKept.map((sentence) => (
            <p key={sentence} className="text-ink-2">
              {sentence}
            </p>
          ))}
        </div>
      </div>
      <div className="flex min-h-0 flex-col gap-2">
        {before > 0 && (
          <Choice
            label={say.howItComesIn}
            hideLabel
            options={COMES_IN}
            words={{ version: say.newVersionOf(counted(before, 'plane')), planes: say.addAsNewPlanes }}
            value={asVersion ? 'version' : 'planes'}
            onChange={(how) => changePainting(index, { asVersion: how === 'version' })}
          />
        )}
        {painting.alphaUnsure && (
          <div className="flex items-center gap-2">
            <span className="flex-1">{say.theFileDoesNotSay}</span>
            <Choice
              label={say.coloursOfTheFile}
              hideLabel
              options={ALPHA_KINDS}
              words={ALPHA_WORDS}
              value={looked.premultiplied ? 'premultiplied' : 'straight'}
              onChange={(kind) => void setPremultiplied(index, kind === 'premultiplied')}
            />
          </div>
        )}
        {painting.svgScale !== null && (
          <NumberField
            className="w-40"
            label={say.drawnAt}
            unit="×"
            decimals={2}
            step={0.25}
            min={0.01}
            max={LARGEST_SVG_SCALE}
            value={painting.svgScale}
            onCommit={(scale) => void rescaleDrawing(index, scale)}
          />
        )}
        {!looked.set && <FilmPart index={index} looked={looked} />}
        {groups.length > 0 && (
          <div className="flex items-center gap-1">
            <span className="mr-1 text-ink-2">{say.everyGroupAs}</span>
            <Button on={merged.size === 0} onClick={() => changePainting(index, { merged: new Set() })}>
              {say.itsLayers}
            </Button>
            <Button
              on={groups.every((key) => merged.has(key))}
              onClick={() => changePainting(index, { merged: new Set(groups) })}
            >
              {say.onePlane2}
            </Button>
          </div>
        )}
        {looked.set && !asVersion && <SetKindChoice index={index} set={looked.set} />}
        <div ref={setList} className="min-h-0 flex-1 overflow-auto border border-rule bg-raised">
          {looked.set && !asVersion ? (
            <SetList index={index} set={looked.set} left={left} />
          ) : asVersion ? (
            <VersionList looked={looked} landing={landing} />
          ) : (
            <LayerTree index={index} looked={looked} room={list} />
          )}
        </div>
      </div>
    </div>
  );
}

/** In and out of a film, or of anything else that moves. */
function FilmPart({ index, looked: { painting, part } }: { index: number; looked: LookedAt }) {
  const whole = movingLayer(part?.whole ?? painting);
  if (!whole) return null;
  const count = whole.frames.length;
  const [first, last] = [part?.first ?? 1, part?.last ?? count];
  const limits = { unit: 'f', min: 1, max: count };
  return (
    <div className="flex items-end gap-2">
      <NumberField
        className="w-24"
        label={say.inIt}
        {...limits}
        value={first}
        onCommit={(frame) => changePart(index, Math.round(frame), last)}
      />
      <NumberField
        className="w-24"
        label={say.out}
        {...limits}
        value={last}
        onCommit={(frame) => changePart(index, Math.min(first, Math.round(frame)), Math.round(frame))}
      />
      <span className="pb-1 text-ink-2">
        {counted(last - first + 1, 'frame')}
        {say.ofIt}
        {formatNumber(count)}
        {whole.rate && say.rationalTextASecond(rationalText(whole.rate))}
      </span>
    </div>
  );
}

/** How many planes would land. */
function planeCount(
  nodes: readonly ImportedNode[],
  merged: ReadonlySet<string>,
  left: ReadonlySet<string>,
): number {
  return nodes.reduce((sum, node) => {
    if (left.has(node.key)) return sum;
    if (node.kind === 'layer') return sum + 1;
    const inside = planeCount(node.children, new Set(), left);
    return sum + (merged.has(node.key) ? Math.min(1, inside) : planeCount(node.children, merged, left));
  }, 0);
}

/** The layers laid on one another by the browser: a look, not the render. */
function PaintingPicture({ painting, left }: { painting: ImportedPainting; left: ReadonlySet<string> }) {
  const kept = withoutLeft(painting.nodes, left);
  const layers = paintedLayers({ ...painting, nodes: kept }, { num: 24, den: 1 });
  return (
    <div className="grid min-h-0 flex-1 place-items-center overflow-hidden bg-[#7d7d7d] p-2 [container-type:size]">
      <div
        role="img"
        aria-label={say.fileAsItWasRead(painting.file)}
        className="relative overflow-hidden outline outline-1 outline-black/40"
        style={{
          aspectRatio: `${painting.widthPx} / ${painting.heightPx}`,
          width: `min(100cqw, calc(100cqh * ${painting.widthPx / painting.heightPx}))`,
        }}
      >
        {layers.toReversed().map((layer, i) => (
          <img
            // biome-ignore lint/suspicious/noArrayIndexKey: the same art may lie in several layers
            key={i}
            src={`/api/art/${layer.art.id}/preview`}
            alt=""
            className="absolute max-w-none"
            style={{
              left: `${(layer.xPx / painting.widthPx) * 100}%`,
              top: `${(layer.yPx / painting.heightPx) * 100}%`,
              width: `${(layer.art.widthPx / painting.widthPx) * 100}%`,
              height: `${(layer.art.heightPx / painting.heightPx) * 100}%`,
              opacity: layer.hidden ? 0 : layer.opacity,
            }}
          />
        ))}
      </div>
    </div>
  );
}

const withoutLeft = (nodes: readonly ImportedNode[], left: ReadonlySet<string>): ImportedNode[] =>
  nodes.flatMap((node): ImportedNode[] => {
    if (left.has(node.key)) return [];
    return [node.kind === 'layer' ? node : { ...node, children: withoutLeft(node.children, left) }];
  });
