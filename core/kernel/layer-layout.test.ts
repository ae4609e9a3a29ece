import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { LAYER_BYTES, LAYER_FIELDS, layoutAssembly } from './layer-layout.ts';

describe('the layout of the layer table', () => {
  it('is the one that the kernel was built by', () => {
    const built = readFileSync(new URL('./assembly/layout.ts', import.meta.url), 'utf8');
    expect(built).toBe(layoutAssembly());
  });

  it('has room for every field, and lets only fields of different kinds of entries share a place', () => {
    const sizes = { f64: 8, f32: 4, i32: 4, address: 4, flag: 4 };
    const paths = [
      'edgesFrom',
      'edgeCount',
      'boundLeft',
      'boundRight',
      'rampFrom',
      'rampLength',
      'boundTop',
      'boundBottom',
      'isRadial',
    ];
    const taken = new Map<number, string>();
    for (const [name, { at, type }] of Object.entries(LAYER_FIELDS)) {
      expect(at % sizes[type]).toBe(0);
      expect(at + sizes[type]).toBeLessThanOrEqual(LAYER_BYTES);
      if (paths.includes(name)) continue;
      for (let byte = at; byte < at + sizes[type]; byte += 4) {
        expect([name, taken.get(byte)]).toEqual([name, undefined]);
        taken.set(byte, name);
      }
    }
    expect(Object.keys(LAYER_FIELDS)).toHaveLength(39);
  });
});
