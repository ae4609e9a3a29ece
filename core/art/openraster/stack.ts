import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault, NotKept } from '../not-kept.ts';

/** One layer of the stack, groups folded into it. Offsets in px of the image, from its upper left corner. */
export interface StackLayer {
  /** Group names first: `Quay / Wall`. */
  readonly name: string;
  readonly src: string;
  readonly xPx: number;
  readonly yPx: number;
  readonly opacity: number;
  readonly hidden: boolean;
}

export interface Stack {
  readonly widthPx: number;
  readonly heightPx: number;
  /** On top first, as OpenRaster lists them. */
  readonly layers: readonly StackLayer[];
  readonly notKept: readonly NotKept[];
}

interface Group {
  readonly path: readonly string[];
  readonly opacity: number;
  readonly hidden: boolean;
}

/**
 * Reads stack.xml (OpenRaster 0.0.5, Layers Stack File). Groups become name prefixes; a group's opacity is multiplied
 * into its layers, which is reported since overlapping layers then show through one another.
 */
export function readStack(xml: string): Result<Stack, ArtFault> {
  const reader = new StackReader();
  try {
    const parser = new SaxesParser({ xmlns: false });
    parser.on('doctype', () => reader.refuse('it declares a document type, which OpenRaster does not'));
    parser.on('opentag', (tag) => reader.open(tag));
    parser.on('closetag', (tag) => reader.close(tag.name));
    parser.on('error', (error) => {
      throw new StackFault(`stack.xml is not well-formed (${error.message})`);
    });
    parser.write(xml).close();
  } catch (error) {
    if (error instanceof StackFault) return fail({ code: 'damaged', detail: error.message });
    throw error;
  }
  return reader.result();
}

class StackFault extends Error {}

class StackReader {
  private size: { widthPx: number; heightPx: number } | null = null;
  private readonly groups: Group[] = [];
  private readonly layers: StackLayer[] = [];
  private readonly notKept: NotKept[] = [];

  refuse(why: string): never {
    throw new StackFault(why);
  }

  open(tag: SaxesTagPlain): void {
    switch (tag.name) {
      case 'image':
        this.size = { widthPx: this.whole(tag, 'w', 1), heightPx: this.whole(tag, 'h', 1) };
        return;
      case 'stack':
        this.openGroup(tag);
        return;
      case 'layer':
        this.addLayer(tag);
        return;
      case 'text':
        this.drop('text-layer', this.fullName(tag, 'Text'), '');
        return;
      case 'filter':
        this.drop('filter', this.fullName(tag, 'Filter'), tag.attributes.type ?? '');
        return;
    }
  }

  close(name: string): void {
    if (name === 'stack') this.groups.pop();
  }

  result(): Result<Stack, ArtFault> {
    if (!this.size) return fail({ code: 'damaged', detail: 'stack.xml has no image element' });
    if (this.layers.length === 0) return fail({ code: 'no-layers', detail: 'stack.xml lists no layer' });
    return ok({ ...this.size, layers: this.layers, notKept: this.notKept });
  }

  private openGroup(tag: SaxesTagPlain): void {
    const outer = this.groups.at(-1);
    if (!outer) {
      this.groups.push({ path: [], opacity: 1, hidden: false });
      return;
    }
    const name = this.fullName(tag, 'Group');
    const opacity = this.opacity(tag);
    if (opacity < 1) this.drop('group-opacity', name, `${Math.round(opacity * 100)} %`);
    if (this.whole(tag, 'x') !== 0 || this.whole(tag, 'y') !== 0) this.drop('group-offset', name, '');
    this.noteBlendMode(tag, name);
    this.groups.push({
      path: [...outer.path, tag.attributes.name?.trim() || 'Group'],
      opacity: outer.opacity * opacity,
      hidden: outer.hidden || tag.attributes.visibility === 'hidden',
    });
  }

  private addLayer(tag: SaxesTagPlain): void {
    const group = this.groups.at(-1) ?? this.refuse('stack.xml has a layer outside its stack');
    const name = this.fullName(tag, `Layer ${this.layers.length + 1}`);
    const src = tag.attributes.src ?? this.refuse(`layer "${name}" names no image`);
    this.noteBlendMode(tag, name);
    this.layers.push({
      name,
      src,
      xPx: this.whole(tag, 'x'),
      yPx: this.whole(tag, 'y'),
      opacity: group.opacity * this.opacity(tag),
      hidden: group.hidden || tag.attributes.visibility === 'hidden',
    });
  }

  private fullName(tag: SaxesTagPlain, unnamed: string): string {
    return [...(this.groups.at(-1)?.path ?? []), tag.attributes.name?.trim() || unnamed]
      .join(' / ')
      .slice(0, 200);
  }

  private noteBlendMode(tag: SaxesTagPlain, name: string): void {
    const mode = tag.attributes['composite-op'] ?? 'svg:src-over';
    if (mode !== 'svg:src-over') this.drop('blend-mode', name, mode);
  }

  private drop(code: NotKept['code'], layer: string, detail: string): void {
    this.notKept.push({ code, layer, detail });
  }

  private opacity(tag: SaxesTagPlain): number {
    const value = Number(tag.attributes.opacity ?? 1);
    if (!(value >= 0 && value <= 1))
      this.refuse(`opacity "${tag.attributes.opacity}" is not between 0 and 1`);
    return value;
  }

  private whole(tag: SaxesTagPlain, attribute: string, least = -1e6): number {
    const text = tag.attributes[attribute] ?? (least > 0 ? '' : '0');
    const value = text === '' ? Number.NaN : Math.round(Number(text));
    if (!(value >= least && value <= 1e6)) this.refuse(`${tag.name} has ${attribute}="${text}"`);
    return value;
  }
}
