import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { describe, expect, it } from 'vitest';
import { nextName, sortedShots } from './production-row.tsx';

const shot = (name: string, lengthFrames: number, madeAt: string): ShotCard => ({
  id: name,
  name,
  revision: 1,
  frame: { widthPx: 1920, heightPx: 1080 },
  rate: { num: 24, den: 1 },
  lengthFrames,
  planes: 1,
  madeAt,
});
const shots = [
  shot('020 Tide', 48, '2026-01-02'),
  shot('100 End', 12, '2026-01-03'),
  shot('3 Quay', 96, '2026-01-01'),
];
const names = (list: readonly ShotCard[]) => list.map(({ name }) => name);

describe('the shots of a production', () => {
  it('stand as they were placed, by name with numbers as numbers, newest or longest first', () => {
    expect(names(sortedShots(shots, 'placed'))).toEqual(['020 Tide', '100 End', '3 Quay']);
    expect(names(sortedShots(shots, 'name'))).toEqual(['3 Quay', '020 Tide', '100 End']);
    expect(names(sortedShots(shots, 'newest'))).toEqual(['100 End', '020 Tide', '3 Quay']);
    expect(names(sortedShots(shots, 'longest'))).toEqual(['3 Quay', '020 Tide', '100 End']);
  });

  it('give their copies the next free number', () => {
    expect(nextName(shots, '3 Quay')).toBe('3 Quay 2');
    expect(nextName([...shots, shot('3 Quay 2', 1, '')], '3 Quay')).toBe('3 Quay 3');
    expect(nextName([shot('Pier 2', 1, '')], 'Pier 2')).toBe('Pier 3');
  });
});
