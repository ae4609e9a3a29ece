import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { onlyStill } from '@keen-ridge/core/art/landing';
import type { Content, Exposure } from '@keen-ridge/core/scene';
import { CopyPlus, Plus, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { uploadArt } from '../../api/upload.ts';
import { tellFault } from '../../edits/while-told.ts';
import { ArtThumbnail } from '../../planes/plane-thumbnail.tsx';
import { Button } from '../../ui/button.tsx';
import { classes } from '../../ui/class-names.ts';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { useDrag } from '../../ui/pointer/drag.ts';
import { type BeginTrial, trialDrag, trialOf } from '../../ui/trial.ts';
import { artWords as say } from '../../words/art.ts';

type Moving = Extract<Content, { kind: 'moving' }>;

interface ExposureStripProps {
  content: Moving;
  /** The exposure at the playhead. */
  now: number;
  onChange: (part: Partial<Moving>) => void;
  begin: BeginTrial<Content>;
}

/** The drawings of a moving plane in time: dragged into another order, repeated, taken out, added, and held by their end. */
export function ExposureStrip({ content, now, onChange, begin }: ExposureStripProps) {
  const { exposures } = content;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const ids = exposures.map((_, i) => `${i}`);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      onChange({ exposures: arrayMove([...exposures], Number(active.id), Number(over.id)) });
  };
  const replaced = (index: number, by: readonly Exposure[]) => exposures.toSpliced(index, 1, ...by);
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
        <div className="flex gap-1.5 overflow-x-auto pb-1">
          <ol aria-label={say.exposures} className="flex gap-1.5">
            {exposures.map((exposure, i) => (
              <ExposureTile
                // biome-ignore lint/suspicious/noArrayIndexKey: the same picture may be exposed twice
                key={i}
                index={i}
                exposure={exposure}
                now={i === now}
                alone={exposures.length === 1}
                onHold={(hold) => onChange({ exposures: replaced(i, [{ ...exposure, hold }]) })}
                begin={trialOf(begin, (hold: number) => ({
                  ...content,
                  exposures: replaced(i, [{ ...exposure, hold }]),
                }))}
                onRepeat={() => onChange({ exposures: replaced(i, [exposure, exposure]) })}
                onRemove={() => onChange({ exposures: replaced(i, []) })}
              />
            ))}
          </ol>
          <div className="grid w-[76px] shrink-0 place-items-center">
            <AddDrawings
              content={content}
              onAdd={(added) => onChange({ exposures: [...exposures, ...added] })}
            />
          </div>
        </div>
      </SortableContext>
    </DndContext>
  );
}

/** Px of a drag at an exposure's end for one frame of its hold. */
const PX_PER_FRAME = 6;
const LONGEST_HOLD = 100_000;

interface ExposureTileProps {
  index: number;
  exposure: Exposure;
  now: boolean;
  alone: boolean;
  onHold: (frames: number) => void;
  begin: BeginTrial<number>;
  onRepeat: () => void;
  onRemove: () => void;
}

function ExposureTile({ index, exposure, now, alone, onHold, begin, onRepeat, onRemove }: ExposureTileProps) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: `${index}` });
  const end = useDrag<HTMLDivElement>(() =>
    trialDrag(begin, ({ dx }) =>
      Math.min(LONGEST_HOLD, Math.max(1, exposure.hold + Math.round(dx / PX_PER_FRAME))),
    ),
  );
  return (
    <li
      ref={setNodeRef}
      aria-current={now ? 'true' : undefined}
      className={classes(
        'group relative w-[76px] shrink-0 border bg-raised p-1',
        now ? 'border-signal' : 'border-rule',
        isDragging && 'z-10 opacity-80',
      )}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <div {...listeners} title={say.dragToChangeTheOrder} className="cursor-grab touch-none">
        <ArtThumbnail artId={exposure.art.id} className="h-[38px] w-full" />
      </div>
      <div className="absolute top-0 right-0 flex opacity-0 focus-within:opacity-100 group-hover:opacity-100">
        <Button
          tone="bare"
          icon
          className="h-6! w-6! bg-raised!"
          aria-label={say.repeatExposureValue(index + 1)}
          onClick={onRepeat}
        >
          <CopyPlus size={12} aria-hidden="true" />
        </Button>
        <Button
          tone="bare"
          icon
          className="h-6! w-6! bg-raised!"
          aria-label={say.deleteExposureValue(index + 1)}
          disabled={alone}
          onClick={onRemove}
        >
          <X size={12} aria-hidden="true" />
        </Button>
      </div>
      <NumberField
        hideLabel
        label={say.holdOfExposureValue(index + 1)}
        unit="f"
        min={1}
        max={LONGEST_HOLD}
        value={exposure.hold}
        onCommit={(v) => onHold(Math.max(1, Math.round(v)))}
      />
      <div
        title={say.dragToHoldItLonger}
        data-testid={`hold-end-${index + 1}`}
        className="absolute inset-y-0 -right-1.5 z-10 w-3 cursor-ew-resize touch-none"
        {...end}
      />
    </li>
  );
}

/** More drawings from files, after the last one. All of them are of the size of the others. */
function AddDrawings({ content, onAdd }: { content: Moving; onAdd: (added: Exposure[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [first] = content.exposures;
  // The drawings may be changed while files are read: what is added goes after those that are there by then.
  const latest = useRef(onAdd);
  latest.current = onAdd;
  const reading = useRef<AbortController | null>(null);
  useEffect(() => () => reading.current?.abort(), []);
  const add = async (files: readonly File[]) => {
    setBusy(true);
    const abort = new AbortController();
    reading.current = abort;
    try {
      const added: Exposure[] = [];
      for (const file of files) {
        const { paintings } = await uploadArt(file, { signal: abort.signal, onProgress: () => {} });
        const art = paintings[0] && onlyStill(paintings[0])?.art;
        if (!art) throw new Error(`“${file.name}” is no single picture.`);
        if (art.widthPx !== first?.art.widthPx || art.heightPx !== first.art.heightPx)
          throw new Error(
            `“${file.name}” is ${art.widthPx} × ${art.heightPx} px; the others are ${first?.art.widthPx} × ${first?.art.heightPx}.`,
          );
        added.push({ art, hold: first.hold });
      }
      if (!abort.signal.aborted) latest.current(added);
    } catch (error) {
      // The plane was left: nothing of it is added anywhere else.
      if (abort.signal.aborted) return;
      tellFault(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        className="hidden"
        aria-label={say.moreDrawings}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          if (files.length > 0) void add(files);
        }}
      />
      <Button disabled={busy} title={say.moreDrawingsAfterTheLast} onClick={() => input.current?.click()}>
        <Plus size={13} aria-hidden="true" /> {busy ? '…' : say.add}
      </Button>
    </>
  );
}
