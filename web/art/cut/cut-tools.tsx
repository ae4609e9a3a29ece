import type { CutRecipe, SelectionStep } from '@keen-ridge/core/scene';
import { Button } from '../../ui/button.tsx';
import { Checkbox } from '../../ui/fields/checkbox.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { artWords as say } from '../../words/art.ts';
import type { CutTool } from './cut-tool.ts';
import type { ToolSettings } from './tool-settings.ts';

const TOOLS = ['lasso', 'polygon', 'colour', 'copy'] as const satisfies readonly CutTool[];
const TOOL_WORDS: Readonly<Record<CutTool, string>> = {
  lasso: say.lasso,
  polygon: say.corners,
  colour: say.colour,
  copy: say.copyBrush,
};
const TOOL_HINTS: Readonly<Record<CutTool, string>> = {
  lasso: say.drawRoundWhatIsToBe,
  polygon: say.clickFromCornerToCorner,
  colour: say.clickAColourToTake,
  copy: say.onWhatIsLeftAltClick,
};
const MODES = ['add', 'subtract'] as const satisfies readonly ToolSettings['mode'][];
const MODE_WORDS: Readonly<Record<ToolSettings['mode'], string>> = { add: say.add, subtract: say.subtract };

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
  return (
    <section
      aria-label={say.cutting}
      className="flex w-[232px] shrink-0 flex-col gap-3 overflow-auto border-r border-rule bg-panel px-3 py-3"
    >
      <h1 className="font-semibold">{say.cut2}</h1>
      <Choice
        label={say.tool}
        hideLabel
        columns={2}
        options={TOOLS}
        words={TOOL_WORDS}
        value={tool}
        disabled={(kind) => kind === 'copy' && recipe.steps.length === 0}
        onChange={(kind) => onSettings({ tool: kind })}
      />
      <p className="text-[12px] text-ink-2">{TOOL_HINTS[tool]}</p>
      {tool !== 'copy' && (
        <Choice
          label={say.whatItDoes}
          hideLabel
          columns={2}
          options={MODES}
          words={MODE_WORDS}
          value={mode}
          onChange={(next) => onSettings({ mode: next })}
        />
      )}
      {tool === 'colour' && (
        <>
          <NumberField
            label={say.tolerance}
            unit="of 255"
            min={0}
            max={255}
            value={settings.tolerance}
            onCommit={(tolerance) => onSettings({ tolerance })}
          />
          <Checkbox checked={settings.contiguous} onChange={(contiguous) => onSettings({ contiguous })}>
            {say.connectedPaintOnly}
          </Checkbox>
        </>
      )}
      {tool === 'copy' && (
        <>
          <NumberField
            label={say.brush}
            unit="px"
            min={1}
            max={2000}
            value={settings.brushPx}
            onCommit={(brushPx) => onSettings({ brushPx })}
          />
          <Button disabled={recipe.copies.length === 0} onClick={onUndoCopy}>
            {say.undoTheLastStrokeLength(recipe.copies.length)}
          </Button>
        </>
      )}
      <NumberField
        label={say.softBorder}
        unit="px"
        decimals={1}
        min={0}
        max={500}
        value={recipe.featherPx}
        onCommit={(featherPx) => onRecipe({ featherPx })}
      />
      <Checkbox checked={recipe.fill} onChange={(fill) => onRecipe({ fill })}>
        {say.fillTheHoleFromAround}
      </Checkbox>
      {name !== null && (
        <TextField
          label={say.nameOfTheNewPlane}
          value={name}
          maxLength={200}
          onChange={(event) => onName(event.target.value)}
        />
      )}
      <div className="border-t border-rule pt-2">
        <h2 className="mb-1 text-[11px] text-ink-2">{say.steps}</h2>
        {recipe.steps.length === 0 ? (
          <p className="text-[12px] text-ink-2">{say.noneYet}</p>
        ) : (
          <ol aria-label={say.steps}>
            {recipe.steps.map((step, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: steps have no name but their place
              <li key={i} className="flex items-center gap-1 text-[12px]">
                <span className="min-w-0 flex-1 truncate">{stepWords(step)}</span>
                <Button
                  tone="bare"
                  icon
                  aria-label={say.removeStepValue(i + 1)}
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
