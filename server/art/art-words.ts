import type { ArtFault, NotKept } from '@keen-ridge/core/art';
import { assertNever } from '@keen-ridge/core/units';

const LONGEST_NAME = 120;

/** One sentence that names the file, the fault and what to do. */
export function faultSentence(fileName: string, fault: ArtFault): string {
  const name = fileName.length > LONGEST_NAME ? `${fileName.slice(0, LONGEST_NAME)} …` : fileName;
  const said = `“${name}” cannot be read: ${fault.detail}.`;
  switch (fault.code) {
    case 'not-this-format':
      return `${said} Bring OpenRaster, PSD or PSB, PNG, JPEG, WebP, TIFF, SVG, GIF, a film (WebM, MP4, MOV, Matroska), or a zip of these.`;
    case 'damaged':
    case 'missing-part':
      return `${said} Save it again from the painting program.`;
    case 'too-large':
      return `${said} Save it smaller, or in parts.`;
    case 'too-heavy':
      return `${said} Nothing was changed. Rasterise or simplify it, or save it smaller.`;
    case 'no-decoder':
      return `${said} Whoever looks after Keen Ridge there can install it; a GIF or numbered pictures need none.`;
    case 'no-package':
      return `“${name}” is no package that can be opened: ${fault.detail}. Download the shot again as an open package, by this version or an older one.`;
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
    case 'blend-mode-nearly':
      return `“${layer}” is blended as ${detail}, which is nearly but not quite the same here.`;
    case 'isolated-group':
      return `Group “${layer}” keeps its shadows and lights to itself; here they fall on what is behind it too.`;
    case 'group-opacity':
      return `Group “${layer}” has an opacity of ${detail}; each of its layers takes it on.`;
    case 'text-layer':
      return `“${layer}” is live text and was left out: rasterise it in the painting program.`;
    case 'filter':
      return `“${layer}” is a filter (${detail}) and was left out.`;
    case 'colour-depth':
      return `“${layer}” has ${detail} per channel; it is held in 8.`;
    case 'deep-colour':
      return `“${layer}” has ${detail} per channel; it is held in 16.`;
    case 'empty-layer':
      return `“${layer}” is empty and was left out.`;
    case 'effects':
      return `“${layer}” has live effects, which are not drawn: rasterise them in the painting program.`;
    case 'script':
      return `${layer} holds a script, which is not run.`;
    case 'outside-reference':
      return `${layer} refers to another file (${detail}), which is not looked up: embed it.`;
    case 'other-file':
      return `“${layer}” is no art and was left out.`;
    default:
      return assertNever(code);
  }
}
