import { compose, rotation, scaling, translation } from '@keen-ridge/core/geometry';
import type { Paint } from '@keen-ridge/core/paint';
import type { Content, Plane, Shape } from '@keen-ridge/core/scene';
import {
  deleteNode,
  mapOutline,
  type Outline,
  outlinesBox,
  pathData,
  setSmooth,
} from '@keen-ridge/core/shapes';
import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { Command } from '../../commands/command.ts';
import { useCommands } from '../../commands/registry.ts';
import { contentTrial } from '../../edits/art-edits.ts';
import type { Session } from '../../session/session.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { type BeginTrial, setOnce, settingTrial, trialOf } from '../../ui/trial.ts';
import { artWords as say } from '../../words/art.ts';
import { PaintEditor } from '../panel/paint-editor.tsx';
import type { NodePlace } from './node-place.ts';
import { outlinesOf, type ShapeTool } from './shape-tool.ts';
import type { Shapes } from './shapes.ts';
import { ShapesSurface } from './shapes-surface.tsx';

const TOOLS = ['choose', 'draw', 'ellipse', 'rectangle'] as const satisfies readonly ShapeTool[];
const TOOL_WORDS: Readonly<Record<ShapeTool, string>> = {
  choose: say.choose,
  draw: say.draw,
  ellipse: say.ellipse,
  rectangle: say.rectangle,
};
const TOOL_HINTS: Readonly<Record<ShapeTool, string>> = {
  choose: say.dragShapesNodesAndHandles,
  draw: say.clickForCornersDragFor,
  ellipse: say.dragFromCornerToCorner,
  rectangle: say.dragFromCornerToCorner,
};

interface ShapesTableProps {
  session: Session;
  plane: Plane;
  content: Shapes;
}

/** Shapes on one plane: drawn, filled, copied, flipped, turned and squashed. */
export function ShapesTable({ session, plane, content }: ShapesTableProps) {
  const [tool, setTool] = useState<ShapeTool>(content.shapes.length === 0 ? 'draw' : 'choose');
  const [chosenId, setChosenId] = useState<string | null>(content.shapes[0]?.id ?? null);
  const [node, setNode] = useState<NodePlace | null>(null);
  const [paint, setPaint] = useState<Paint>({ kind: 'solid', colour: '#4b5d67', opacity: 1 });
  const chosen = content.shapes.find((shape) => shape.id === chosenId) ?? null;

  const keep = (shapes: readonly Shape[]) =>
    setOnce(contentTrial(session, plane.id), { ...content, shapes: [...shapes] });
  /** Tries changes of one shape; one without an outline left is deleted. */
  const shapeTrial = <T,>(id: string, change: (shape: Shape, value: T) => Shape): BeginTrial<T> =>
    trialOf(contentTrial(session, plane.id), (value: T): Content => {
      const shapes = content.shapes.map((shape) => (shape.id === id ? change(shape, value) : shape));
      return { ...content, shapes: shapes.filter((shape) => shape.path !== '') };
    });
  const outlinesTrial = (id: string) =>
    shapeTrial(id, (shape, outlines: readonly Outline[]) => ({ ...shape, path: pathData(outlines) }));
  const add = (outline: Outline) => {
    const made: Shape = { id: crypto.randomUUID(), path: pathData([outline]), paint: chosen?.paint ?? paint };
    keep([made, ...content.shapes]);
    setChosenId(made.id);
    setTool('choose');
  };
  /** Maps the chosen shape about the middle of its own box. */
  const turn = (map: ReturnType<typeof scaling>) => {
    if (!chosen) return;
    const outlines = outlinesOf(chosen);
    const box = outlinesBox(outlines);
    if (!box) return;
    const [cx, cy] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
    const about = compose(translation(cx, cy), compose(map, translation(-cx, -cy)));
    setOnce(
      outlinesTrial(chosen.id),
      outlines.map((outline) => mapOutline(outline, about)),
    );
  };
  const copy = () => {
    if (!chosen) return;
    const by = translation(content.widthPx / 40, content.heightPx / 40);
    const path = pathData(outlinesOf(chosen).map((outline) => mapOutline(outline, by)));
    const made = { ...chosen, id: crypto.randomUUID(), path };
    keep([made, ...content.shapes]);
    setChosenId(made.id);
  };
  const changeNode = (change: (outline: Outline, index: number) => Outline) => {
    if (!chosen || !node) return;
    const outlines = outlinesOf(chosen).map((outline, i) =>
      i === node.outline ? change(outline, node.index) : outline,
    );
    setOnce(
      outlinesTrial(chosen.id),
      outlines.filter((outline) => outline.length > 1),
    );
  };
  const remove = () => {
    if (!chosen) return;
    if (node) {
      changeNode(deleteNode);
      setNode(null);
    } else keep(content.shapes.filter((shape) => shape.id !== chosen.id));
  };
  const latest = useRef(remove);
  latest.current = remove;
  const commands = useMemo(
    (): readonly Command[] => [
      {
        id: 'shapes.delete',
        words: say.deleteTheChosenNodeOr,
        group: 'Shapes',
        keys: ['Delete', 'Backspace'],
        run: () => latest.current(),
      },
      {
        id: 'shapes.choose-none',
        words: say.chooseNothing,
        group: 'Shapes',
        keys: ['Escape'],
        run: () => {
          setNode(null);
          setChosenId(null);
        },
      },
    ],
    [],
  );
  useCommands('step', commands);
  const order = (by: 1 | -1) => {
    if (!chosen) return;
    const from = content.shapes.indexOf(chosen);
    const rest = content.shapes.filter((shape) => shape !== chosen);
    keep([...rest.slice(0, Math.max(0, from + by)), chosen, ...rest.slice(Math.max(0, from + by))]);
  };

  return (
    <main className="flex min-h-0 flex-1">
      <section
        aria-label={say.drawing}
        className="flex w-[300px] shrink-0 flex-col gap-3 overflow-auto border-r border-rule bg-panel px-3 py-3"
      >
        <h1 className="truncate font-semibold">{say.shapesOfName(plane.name)}</h1>
        <Choice
          label={say.tool}
          hideLabel
          columns={4}
          options={TOOLS}
          words={TOOL_WORDS}
          value={tool}
          onChange={setTool}
        />
        <p className="text-[12px] text-ink-2">{TOOL_HINTS[tool]}</p>
        <PaintEditor
          key={chosenId ?? 'new'}
          paint={chosen?.paint ?? paint}
          trial={
            chosen
              ? shapeTrial(chosen.id, (shape, next: Paint) => ({ ...shape, paint: next }))
              : settingTrial(paint, setPaint)
          }
        />
        {chosen && (
          <>
            <div className="grid grid-cols-3 gap-1 border-t border-rule pt-3">
              <Button onClick={copy}>{say.copy2}</Button>
              <Button onClick={() => turn(scaling(-1, 1))}>{say.flipEW}</Button>
              <Button onClick={() => turn(scaling(1, -1))}>{say.flipNS}</Button>
              <Button onClick={() => order(-1)}>{say.nearer}</Button>
              <Button onClick={() => order(1)}>{say.farther}</Button>
              <Button tone="danger" onClick={() => keep(content.shapes.filter((shape) => shape !== chosen))}>
                {say.deleteIt}
              </Button>
            </div>
            <div className="grid grid-cols-3 gap-2">
              <NumberField label={say.turnBy} unit="°" value={0} onCommit={(v) => turn(rotation(v))} />
              <NumberField
                label={say.widthTo}
                unit="%"
                min={1}
                max={1000}
                value={100}
                onCommit={(v) => turn(scaling(v / 100, 1))}
              />
              <NumberField
                label={say.heightTo}
                unit="%"
                min={1}
                max={1000}
                value={100}
                onCommit={(v) => turn(scaling(1, v / 100))}
              />
            </div>
          </>
        )}
        {chosen && node && (
          <div className="grid grid-cols-3 gap-1 border-t border-rule pt-3">
            <Button onClick={() => changeNode((outline, i) => setSmooth(outline, i, true))}>
              {say.roundNode}
            </Button>
            <Button onClick={() => changeNode((outline, i) => setSmooth(outline, i, false))}>
              {say.straight}
            </Button>
            <Button onClick={remove}>{say.deleteNode}</Button>
          </div>
        )}
        <span className="flex-1" />
        <Link
          to="../.."
          relative="path"
          className="inline-flex h-[26px] items-center justify-center rounded-[3px] border border-ink bg-ink text-raised"
        >
          {say.done}
        </Link>
      </section>
      <ShapesSurface
        plane={plane}
        content={content}
        tool={tool}
        chosenId={chosenId}
        node={node}
        onChoose={(id) => {
          setChosenId(id);
          setNode(null);
        }}
        onNode={setNode}
        trialOf={outlinesTrial}
        onAdd={add}
      />
    </main>
  );
}
