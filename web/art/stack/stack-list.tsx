import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { renameGroup, reorderPlanes, setPlanesGroup, tidyNames } from '@keen-ridge/core/edits/planes';
import { type PlaneId, planeIdSchema } from '@keen-ridge/core/scene';
import { planeOf, planesOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { Search } from 'lucide-react';
import { useRef, useState } from 'react';
import { groupPlanes, nameFaults, ungroupPlanes } from '../../edits/art-edits.ts';
import { subjectOf } from '../../edits/depth-edits.ts';
import { selectionAfterClick } from '../../session/choices/selection.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { counted } from '../../ui/format.ts';
import { artWords as say } from '../../words/art.ts';
import { GroupRow } from './group-row.tsx';
import { PlaneRow } from './plane-row.tsx';
import { rowKey, stackRows } from './stack-rows.ts';
import { useStackCommands } from './use-stack-commands.ts';

const ROW_HEIGHTS = { group: 30, plane: 44 } as const;
/** Rows that are ready above and below what is seen. */
const ROWS_READY = 16;

/** Every plane in order of the list, with what can be done to one or many. */
export function StackList() {
  const session = useSession();
  const planes = useSessionState((state) => planesOf(state.scene));
  const selection = useSessionState((state) => state.selection);
  const [find, setFind] = useState('');
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const rows = stackRows(planes, closed, find);
  const order = rows.flatMap((row) => (row.kind === 'plane' ? [row.plane.id] : []));

  const scroll = useRef<HTMLDivElement>(null);
  const lastChosen = rows.findIndex((row) => row.kind === 'plane' && row.plane.id === selection.at(-1));
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: (index) => ROW_HEIGHTS[rows[index]!.kind],
    getItemKey: (index) => rowKey(rows[index]!),
    overscan: ROWS_READY,
    // The row that was chosen last has the focus, or can take it: it stays while others are looked at.
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return lastChosen < 0 || seen.includes(lastChosen) ? seen : [...seen, lastChosen];
    },
  });

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const [dragged, goal] = [planeIdSchema.parse(active.id), planeIdSchema.parse(over.id)];
    const ids = selection.includes(dragged) ? selection : [dragged];
    const down = order.indexOf(goal) > order.indexOf(dragged);
    moveNextTo(ids, goal, down);
  };
  /** Puts planes before or behind another one; between two planes of one group they join it. */
  const moveNextTo = (ids: readonly PlaneId[], goal: PlaneId, behind: boolean) => {
    const { scene } = session.state;
    const at = planesOf(scene).findIndex((plane) => plane.id === goal) + (behind ? 1 : 0);
    const before = planesOf(scene)[at]?.id ?? null;
    const moved = reorderPlanes(scene, new Set(ids), before);
    const place = planesOf(moved).findIndex((plane) => plane.id === ids[0]);
    const above = planesOf(moved)[place - 1]?.group ?? null;
    const below = planesOf(moved)[place + ids.length]?.group ?? null;
    const group = above !== null && above === below ? above : null;
    const loose = new Set(ids.filter((id) => planeOf(scene, id)?.group !== group));
    const wholeGroup = ids.length > 1 && new Set(ids.map((id) => planeOf(scene, id)?.group)).size === 1;
    const next =
      loose.size > 0 && (group !== null || !wholeGroup)
        ? withPlaneList(
            moved,
            planesOf(setPlanesGroup(moved, loose, null)).map((p) => (loose.has(p.id) ? { ...p, group } : p)),
          )
        : moved;
    session.commit('reorder-planes', subjectOf(scene, ids), next);
  };
  const step = (id: PlaneId, by: 1 | -1) => {
    const ids = selection.includes(id) ? selection : [id];
    const edge =
      by === 1
        ? Math.max(...ids.map((i) => order.indexOf(i)))
        : Math.min(...ids.map((i) => order.indexOf(i)));
    const goal = order[edge + by];
    if (goal) moveNextTo(ids, goal, by === 1);
  };
  const focusRow = (id: PlaneId | undefined) => {
    if (!id) return;
    session.select([id]);
    virtual.scrollToIndex(rows.findIndex((row) => row.kind === 'plane' && row.plane.id === id));
    const row = document.getElementById(`row-${id}`);
    if (row) row.focus({ preventScroll: true });
    else requestAnimationFrame(() => document.getElementById(`row-${id}`)?.focus());
  };
  useStackCommands({
    onStep: (id, by) => step(id, by),
    onFocus: (id, by) => focusRow(order[order.indexOf(id) + by]),
  });

  return (
    <>
      <StackTools find={find} onFind={setFind} />
      <div ref={scroll} className="min-h-0 flex-1 overflow-auto" data-place="planes">
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext items={order} strategy={verticalListSortingStrategy}>
            <ul
              aria-label={say.planesOnTopFirst}
              data-place="stack"
              className="relative select-none"
              style={{ height: virtual.getTotalSize() }}
            >
              {virtual.getVirtualItems().map(({ index, key, start }) => {
                const row = rows[index]!;
                const place = { top: start, at: index + 1, of: rows.length };
                return row.kind === 'group' ? (
                  <GroupRow
                    key={key}
                    place={place}
                    name={row.name}
                    planes={row.planes}
                    open={row.open}
                    onOpen={() =>
                      setClosed((was) => {
                        const next = new Set(was);
                        if (!next.delete(row.name)) next.add(row.name);
                        return next;
                      })
                    }
                    onRename={(name) =>
                      session.commit(
                        'group-planes',
                        row.name,
                        renameGroup(session.state.scene, row.name, name),
                      )
                    }
                  />
                ) : (
                  <PlaneRow
                    key={key}
                    place={place}
                    plane={row.plane}
                    inGroup={row.inGroup}
                    selected={selection.includes(row.plane.id)}
                    onSelect={(keys) =>
                      session.select(selectionAfterClick(order, selection, row.plane.id, keys))
                    }
                  />
                );
              })}
            </ul>
          </SortableContext>
        </DndContext>
        {rows.length === 0 && <p className="p-4 text-ink-2">{say.noPlaneHasFindIn(find)}</p>}
      </div>
    </>
  );
}

function StackTools({ find, onFind }: { find: string; onFind: (text: string) => void }) {
  const session = useSession();
  const planes = useSessionState((state) => planesOf(state.scene));
  const selection = useSessionState((state) => state.selection);
  const solo = useSessionState((state) => state.solo);
  const faults = nameFaults(planes);
  const amiss = faults.twice.length + faults.saysNothing.length;
  const chosen = planes.filter((plane) => selection.includes(plane.id));
  return (
    <div className="shrink-0 border-b border-rule bg-panel px-3 py-1.5">
      <div className="flex items-center gap-2">
        <span className="num shrink-0 text-ink-2">{counted(planes.length, 'plane')}</span>
        <label className="flex h-[26px] min-w-0 flex-1 items-center gap-1.5 rounded-[3px] border border-rule bg-raised px-2 focus-within:outline-2 focus-within:outline-select">
          <Search size={13} aria-hidden="true" className="text-ink-2" />
          <input
            aria-label={say.findByName}
            placeholder={say.findByName}
            className="h-full w-full min-w-0 bg-transparent outline-none"
            value={find}
            onChange={(event) => onFind(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') onFind('');
            }}
          />
        </label>
        {solo.length > 0 && (
          <Button on onClick={() => session.setSolo([])}>
            {say.soloOff}
          </Button>
        )}
        {chosen.length > 1 && (
          <>
            <span className="num shrink-0 text-ink-2">{say.lengthChosen(chosen.length)}</span>
            <Button onClick={() => groupPlanes(session, selection)}>{say.group}</Button>
          </>
        )}
        {chosen.length > 0 && chosen.every((plane) => plane.group !== null) && (
          <Button onClick={() => ungroupPlanes(session, selection)}>{say.ungroup}</Button>
        )}
      </div>
      {amiss > 0 && (
        <div className="mt-1 flex items-center gap-2">
          <p className="narrow min-w-0 flex-1 truncate text-[12px] text-fault">
            {faults.twice.length > 0 && `Used twice: ${faults.twice.join(', ')}. `}
            {faults.saysNothing.length > 0 && `Says nothing: ${faults.saysNothing.join(', ')}.`}
          </p>
          <Button
            onClick={() =>
              session.commit('tidy-names', `${planes.length} planes`, tidyNames(session.state.scene))
            }
          >
            {say.tidyNames}
          </Button>
        </div>
      )}
    </div>
  );
}
