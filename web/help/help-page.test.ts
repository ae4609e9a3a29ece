import { describe, expect, it } from 'vitest';
import { foundHelp } from './help-page.tsx';
import { HELP } from './help-text.ts';

/** The words of our own that an artist meets, which the help must explain. */
const WORDS = [
  'Stand',
  'datum',
  'Home',
  'Speed',
  'Hold picture',
  'Spread',
  'Rock',
  'Repeat',
  'Run',
  'Track',
  'Sway',
  'Ride',
  'Keying',
  'Iris',
  'Air',
  'Grade',
  'take',
];

describe('the help', () => {
  it('has a page for every step, and explains every word of our own', () => {
    expect(HELP.map(({ title }) => title)).toEqual([
      'Wall',
      'Art',
      'Stage',
      'Move',
      'Look',
      'Survey',
      'Hand-off',
      'Everywhere',
    ]);
    const all = HELP.flatMap(({ sections }) =>
      sections.map(({ heading, text }) => `${heading} ${text}`),
    ).join(' ');
    for (const word of WORDS) expect(all).toMatch(new RegExp(`\\b${word}\\b`));
    // Artists do not type commands into a machine.
    expect(all).not.toMatch(/npm|apt|sudo|server/i);
  });

  it('is searched by all words, wherever they stand', () => {
    expect(foundHelp('soft filling').map(({ title }) => title)).toEqual(['Art']);
    expect(
      foundHelp('escape RIDE').flatMap(({ sections }) => sections.map(({ heading }) => heading)),
    ).toEqual(['Track, Ride, Sway, Takes']);
    expect(foundHelp('')).toHaveLength(HELP.length);
    expect(foundHelp('no such word')).toEqual([]);
  });
});
