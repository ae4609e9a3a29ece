import type { ArtFault, NotKept } from '@keen-ridge/core/art';
import { assertNever } from '@keen-ridge/core/units';

/** One sentence that names the file, the fault and what to do. */
export function faultSentence(fileName: string, fault: ArtFault): string {
  const said = `“${fileName}” cannot be read: ${fault.detail}.`;
  switch (fault.code) {
    case 'not-this-format':
      return `${said} Bring PNG or OpenRaster (.ora) files.`;
    case 'damaged':
    case 'missing-part':
      return `${said} Save it again from the painting program.`;
    case 'too-large':
      return `${said} Save it smaller, or in parts.`;
    case 'no-layers':
      return `${said} Save it with at least one painted layer.`;
    default:
      return assertNever(fault.code);
  }
}

/** What of a readable file was not kept. */
export function notKeptSentence({ code, layer, detail }: NotKept): string {
  switch (code) {
    case 'blend-mode':
      return `“${layer}” is blended as ${detail.replace(/^svg:/, '')}; it will be drawn plainly over what lies behind.`;
    case 'group-opacity':
      return `Group “${layer}” has an opacity of ${detail}; each of its layers takes it on.`;
    case 'group-offset':
      return `Group “${layer}” has an offset of its own, which is ignored.`;
    case 'text-layer':
      return `“${layer}” is live text and was left out: rasterise it in the painting program.`;
    case 'filter':
      return `“${layer}” is a filter (${detail}) and was left out.`;
    case 'colour-depth':
      return `“${layer}” has ${detail} per channel; it is held in 8.`;
    case 'animation':
      return `“${layer}” is animated; its first frame was taken.`;
    case 'empty-layer':
      return `“${layer}” is empty and was left out.`;
    default:
      return assertNever(code);
  }
}
