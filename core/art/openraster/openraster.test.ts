import { describe, expect, it } from 'vitest';
import { openRasterStack } from '../../export/openraster/index.ts';
import { BLEND_MODES } from '../../paint/index.ts';
import { openRasterZip, stackXml } from '../../testing/index.ts';
import { leavesOf } from '../index.ts';
import { readOpenRaster } from './read.ts';
import { readStack } from './stack.ts';

describe('stack.xml (OpenRaster 0.0.5)', () => {
  it('gives layers on top first, with place, opacity and visibility', () => {
    const read = readStack(
      stackXml(
        '<layer name="Mist &amp; gulls" src="data/a.png" x="-12" y="30" opacity="0.5" visibility="hidden"/><layer src="data/b.png"/>',
      ),
    );
    expect(read).toEqual({
      ok: true,
      value: {
        widthPx: 640,
        heightPx: 360,
        notKept: [],
        nodes: [
          {
            kind: 'layer',
            name: 'Mist & gulls',
            image: { src: 'data/a.png' },
            xPx: -12,
            yPx: 30,
            opacity: 0.5,
            hidden: true,
          },
          {
            kind: 'layer',
            name: 'Layer 2',
            image: { src: 'data/b.png' },
            xPx: 0,
            yPx: 0,
            opacity: 1,
            hidden: false,
          },
        ],
      },
    });
  });

  it('keeps groups with their offsets, opacity and visibility, and reports what is lost', () => {
    const read = readStack(
      stackXml(
        '<stack name="Quay" opacity="0.5" x="10" y="-4"><stack name="Wall" visibility="hidden"><layer name="Stones" src="s.png" opacity="0.5" composite-op="svg:multiply"/></stack></stack><text/><filter type="blur"/>',
      ),
    );
    if (!read.ok) throw new Error(read.error.detail);
    expect(leavesOf(read.value.nodes)[0]).toMatchObject({
      layer: { name: 'Stones', xPx: 10, yPx: -4, opacity: 0.5, hidden: false, mode: 'multiply' },
      group: 'Quay / Wall',
      opacity: 0.25,
      hidden: true,
    });
    expect(read.ok && read.value.notKept.map(({ code, layer }) => [code, layer])).toEqual([
      ['group-opacity', 'Quay'],
      ['text-layer', 'Text'],
      ['filter', 'Filter'],
    ]);
  });

  it.each([
    ['mis-nested XML', '<image w="1" h="1"><stack></image></stack>', 'damaged'],
    [
      'a document type',
      `<!DOCTYPE image [<!ENTITY a "b">]>${stackXml('<layer src="a.png"/>').slice(38)}`,
      'damaged',
    ],
    ['no size', stackXml('<layer src="a.png"/>', ''), 'damaged'],
    ['an opacity of 3', stackXml('<layer src="a.png" opacity="3"/>'), 'damaged'],
    ['a layer without an image', stackXml('<layer name="x"/>'), 'damaged'],
    ['no layer', stackXml(''), 'no-layers'],
    ['nothing', '', 'damaged'],
  ])('refuses %s', (_what, xml, code) => {
    expect(readStack(xml)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('an OpenRaster file', () => {
  const png = new Uint8Array([1, 2, 3]);

  it('gives each layer the bytes that it names', () => {
    const read = readOpenRaster(
      openRasterZip({ 'stack.xml': stackXml('<layer src="data/a.png"/>'), 'data/a.png': png }),
    );
    expect(read.ok && leavesOf(read.value.nodes).map(({ layer }) => [...layer.image])).toEqual([[1, 2, 3]]);
  });

  it.each([
    ['other bytes', new Uint8Array([9, 9, 9, 9]), 'not-this-format'],
    ['another zip', openRasterZip({ 'a.txt': 'hello' }, 'application/epub+zip'), 'not-this-format'],
    ['no stack.xml', openRasterZip({ 'data/a.png': png }), 'missing-part'],
    [
      'a layer whose image is missing',
      openRasterZip({ 'stack.xml': stackXml('<layer name="Sky" src="gone.png"/>') }),
      'missing-part',
    ],
    [
      'a file cut short',
      openRasterZip({ 'stack.xml': stackXml('<layer src="a.png"/>'), 'a.png': png }).subarray(0, 120),
      'damaged',
    ],
  ])('refuses %s', (_what, bytes, code) => {
    expect(readOpenRaster(bytes)).toMatchObject({ ok: false, error: { code } });
  });
});

describe('modes of layers', () => {
  it('come back as they were written, every one of them, and no others', () => {
    const size = { widthPx: 8, heightPx: 4 };
    const layers = BLEND_MODES.map((mode, i) => ({
      name: mode,
      src: `data/${i}.png`,
      xPx: 0,
      yPx: 0,
      opacity: 1,
      ...(mode === 'paint' ? {} : { mode }),
    }));
    const read = readStack(openRasterStack(layers, size));
    if (!read.ok) throw new Error(read.error.detail);
    expect(read.value.notKept).toEqual([]);
    expect(leavesOf(read.value.nodes).map(({ layer }) => layer.mode ?? 'paint')).toEqual([...BLEND_MODES]);
  });

  it('that are none of ours are told, as is a group that keeps its light to itself', () => {
    const read = readStack(
      stackXml(
        '<stack name="Lamps" isolation="isolate"><layer name="Glow" src="a.png" composite-op="svg:screen"/></stack><layer name="Hue" src="b.png" composite-op="svg:hue"/>',
      ),
    );
    if (!read.ok) throw new Error(read.error.detail);
    expect(read.value.notKept).toEqual([
      { code: 'isolated-group', layer: 'Lamps', detail: '' },
      { code: 'blend-mode', layer: 'Hue', detail: 'svg:hue' },
    ]);
  });
});
