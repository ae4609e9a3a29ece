import { describe, expect, it } from 'vitest';
import { pressSpace, releaseSpace, spaceIsHeld, spaceWasUsed } from './space-held.ts';

describe('a press of Space', () => {
  it('means itself when nothing was dragged meanwhile, however often it repeats', () => {
    pressSpace();
    pressSpace();
    expect(spaceIsHeld()).toBe(true);
    expect(releaseSpace()).toBe(true);
    expect(spaceIsHeld()).toBe(false);
  });

  it('means a drag when one began, and the next press is fresh', () => {
    pressSpace();
    spaceWasUsed();
    pressSpace();
    expect(releaseSpace()).toBe(false);
    pressSpace();
    expect(releaseSpace()).toBe(true);
  });

  it('is nothing where it was not pressed', () => {
    spaceWasUsed();
    expect(releaseSpace()).toBe(false);
    pressSpace();
    expect(releaseSpace()).toBe(true);
  });
});
