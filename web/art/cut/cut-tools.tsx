import type { CutRecipe, SelectionStep } from '@keen-ridge/core/scene';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import type { CutTool } from './cut-tool.ts';
import type { ToolSettings } from './tool-settings.ts';

const TOOLS: readonly (readonly [CutTool, string, string])[] = [
  ['lasso', 'Lasso', 'Draw round what is to be taken.'],
  ['polygon', 'Corners', 'Click from corner to corner; Enter or a double click closes.'],
  ['colour', 'Colour', 'Click a colour to take all that is like it.'],
  ['copy', 'Copy brush', 'On what is left: Alt-click where to copy from, then paint.'],
];

interface CutToolsProps {
  settings: ToolSettings;
  onSettings: (part: Partial<ToolSettings>) => void;
  recipe: CutRecipe;
  onRecipe: (part: Partial<CutRecipe>) => void;
  onUndoCopy: () => void;
  /** Of the new plane; null when a cut is changed. */
  name: string | null;
  onName: (name: string) => void;
}

/** The ways to choose, the steps that were taken, and what becomes of the hole. */
export function CutTools({
  settings,
  onSettings,
  recipe,
  onRecipe,
  onUndoCopy,
  name,
  onName,
}: CutToolsProps) {
  const { tool, mode } = settings;
  const chosen = TOOLS.find(([kind]) => kind === tool);
  return (
    <section
      aria-label="Cutting"
      className="flex w-[232px] shrink-0 flex-col gap-3 overflow-auto border-r border-rule bg-panel px-3 py-3"
    >
      <h1 className="font-semibold">Cut</h1>
      <div role="radiogroup" aria-label="Tool" className="grid grid-cols-2 gap-1">
        {TOOLS.map(([kind, word]) => (
          <Button
            key={kind}
            on={tool === kind}
            disabled={kind === 'copy' && recipe.steps.length === 0}
            onClick={() => onSettings({ tool: kind })}
          >
            {word}
          </Button>
        ))}
      </div>
      <p className="text-[12px] text-ink-2">{chosen?.[2]}</p>
      {tool !== 'copy' && (
        <div role="radiogroup" aria-label="What it does" className="grid grid-cols-2 gap-1">
          <Button on={mode === 'add'} onClick={() => onSettings({ mode: 'add' })}>
            Add
          </Button>
          <Button on={mode === 'subtract'} onClick={() => onSettings({ mode: 'subtract' })}>
            Subtract
          </Button>
        </div>
      )}
      {tool === 'colour' && (
        <>
          <NumberField
            label="Tolerance"
            unit="of 255"
            min={0}
            max={255}
            value={settings.tolerance}
            onCommit={(tolerance) => onSettings({ tolerance })}
          />
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={settings.contiguous}
              onChange={(event) => onSettings({ contiguous: event.target.checked })}
            />
            Connected paint only
          </label>
        </>
      )}
      {tool === 'copy' && (
        <>
          <NumberField
            label="Brush"
            unit="px"
            min={1}
            max={2000}
            value={settings.brushPx}
            onCommit={(brushPx) => onSettings({ brushPx })}
          />
          <Button disabled={recipe.copies.length === 0} onClick={onUndoCopy}>
            Undo the last stroke ({recipe.copies.length})
          </Button>
        </>
      )}
      <NumberField
        label="Soft border"
        unit="px"
        decimals={1}
        min={0}
        max={500}
        value={recipe.featherPx}
        onCommit={(featherPx) => onRecipe({ featherPx })}
      />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={recipe.fill}
          onChange={(event) => onRecipe({ fill: event.target.checked })}
        />
        Fill the hole from around it
      </label>
      {name !== null && (
        <TextField
          label="Name of the new plane"
          value={name}
          maxLength={200}
          onChange={(event) => onName(event.target.value)}
        />
      )}
      <div className="border-t border-rule pt-2">
        <h2 className="mb-1 text-[11px] text-ink-2">Steps</h2>
        {recipe.steps.length === 0 ? (
          <p className="text-[12px] text-ink-2">None yet.</p>
        ) : (
          <ol aria-label="Steps">
            {recipe.steps.map((step, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: steps have no name but their place
              <li key={i} className="flex items-center gap-1 text-[12px]">
                <span className="min-w-0 flex-1 truncate">{stepWords(step)}</span>
                <Button
                  tone="bare"
                  icon
                  aria-label={`Remove step ${i + 1}`}
                  onClick={() => onRecipe({ steps: recipe.steps.filter((_, k) => k !== i) })}
                >
                  ×
                </Button>
              </li>
            ))}
          </ol>
        )}
      </div>
    </section>
  );
}

function stepWords(step: SelectionStep): string {
  const sign = step.mode === 'add' ? '+' : '−';
  if (step.kind === 'outline') return `${sign} outline of ${step.points.length} points`;
  return `${sign} colour ± ${step.tolerance}${step.contiguous ? '' : ', everywhere'}`;
}
