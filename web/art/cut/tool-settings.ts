import type { SelectionStep } from '@keen-ridge/core/scene';
import type { CutTool } from './cut-tool.ts';

export interface ToolSettings {
  readonly tool: CutTool;
  readonly mode: SelectionStep['mode'];
  readonly tolerance: number;
  readonly contiguous: boolean;
  readonly brushPx: number;
}
