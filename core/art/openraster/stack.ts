import { SaxesParser, type SaxesTagPlain } from 'saxes';
import type { BlendMode } from '../../paint/index.ts';
import { fail, ok, type Result } from '../../units/index.ts';
import {
  type ArtFault,
  DEEPEST_GROUPS,
  hasModes,
  layerName,
  modeOfOpenRaster,
  type NotKept,
  type Painting,
  type TreeNode,
} from '../index.ts';

/** A layer names its image; the image itself lies in the archive. */
export interface StackImage {
  readonly src: string;
}

/**
 * Reads stack.xml (OpenRaster 0.0.5, Layers Stack File) into its tree, on top first. A stack's own offset shifts what
 * lies in it.
 */
export function readStack(xml: string): Result<Painting<StackImage>, ArtFault> {
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

interface OpenGroup {
  readonly name: string;
  readonly path: readonly string[];
  readonly opacity: number;
  readonly hidden: boolean;
  /** Its layers are laid over one another only. */
  readonly isolated: boolean;
  readonly xPx: number;
  readonly yPx: number;
  readonly children: TreeNode<StackImage>[];
}

class StackReader {
  private size: { widthPx: number; heightPx: number } | null = null;
  private readonly groups: OpenGroup[] = [];
  private root: readonly TreeNode<StackImage>[] = [];
  private readonly notKept: NotKept[] = [];
  private layers = 0;

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

  close(tagName: string): void {
    if (tagName !== 'stack') return;
    const closed = this.groups.pop();
    const outer = this.groups.at(-1);
    if (!closed) return;
    const { name, opacity, hidden, children } = closed;
    if (!outer) this.root = children;
    else if (children.length > 0) {
      if (closed.isolated && hasModes(children))
        this.drop('isolated-group', [...outer.path, name].join(' / '), '');
      outer.children.push({ kind: 'group', name, opacity, hidden, children });
    }
  }

  result(): Result<Painting<StackImage>, ArtFault> {
    if (!this.size) return fail({ code: 'damaged', detail: 'stack.xml has no image element' });
    if (this.layers === 0) return fail({ code: 'no-layers', detail: 'stack.xml lists no layer' });
    return ok({ ...this.size, nodes: this.root, notKept: this.notKept });
  }

  private openGroup(tag: SaxesTagPlain): void {
    const outer = this.groups.at(-1);
    if (!outer) {
      this.groups.push({
        name: '',
        path: [],
        opacity: 1,
        hidden: false,
        isolated: false,
        xPx: 0,
        yPx: 0,
        children: [],
      });
      return;
    }
    if (this.groups.length > DEEPEST_GROUPS)
      this.refuse(`its groups lie more than ${DEEPEST_GROUPS} deep in one another`);
    const full = this.fullName(tag, 'Group');
    const name = layerName(tag.attributes.name, 'Group');
    const opacity = this.opacity(tag);
    if (opacity < 1) this.drop('group-opacity', full, `${Math.round(opacity * 100)} %`);
    if (this.mode(tag, full, true) !== 'paint') this.drop('blend-mode', full, this.operator(tag));
    this.groups.push({
      name,
      path: [...outer.path, name],
      opacity,
      hidden: tag.attributes.visibility === 'hidden',
      isolated: tag.attributes.isolation === 'isolate',
      xPx: outer.xPx + this.whole(tag, 'x'),
      yPx: outer.yPx + this.whole(tag, 'y'),
      children: [],
    });
  }

  private addLayer(tag: SaxesTagPlain): void {
    const group = this.groups.at(-1) ?? this.refuse('stack.xml has a layer outside its stack');
    this.layers += 1;
    const unnamed = `Layer ${this.layers}`;
    const full = this.fullName(tag, unnamed);
    const src = tag.attributes.src ?? this.refuse(`layer "${full}" names no image`);
    const mode = this.mode(tag, full);
    group.children.push({
      kind: 'layer',
      name: layerName(tag.attributes.name, unnamed),
      xPx: group.xPx + this.whole(tag, 'x'),
      yPx: group.yPx + this.whole(tag, 'y'),
      opacity: this.opacity(tag),
      hidden: tag.attributes.visibility === 'hidden',
      ...(mode === 'paint' ? {} : { mode }),
      image: { src },
    });
  }

  private fullName(tag: SaxesTagPlain, unnamed: string): string {
    const path = [...(this.groups.at(-1)?.path ?? []), layerName(tag.attributes.name, unnamed)];
    return layerName(path.join(' / '), unnamed);
  }

  private readonly operator = (tag: SaxesTagPlain): string =>
    tag.attributes['composite-op'] ?? 'svg:src-over';

  /** How it is laid over; of a layer what is lost of that is told here, of a group by whoever opens it. */
  private mode(tag: SaxesTagPlain, name: string, ofGroup = false): BlendMode {
    const { mode, notKept } = modeOfOpenRaster(this.operator(tag));
    if (notKept) this.drop(notKept, name, this.operator(tag));
    return ofGroup && notKept ? 'paint' : mode;
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
