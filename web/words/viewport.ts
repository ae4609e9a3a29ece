/** What zooms: what it says, in English. */
export const viewportWords = {
  fit: 'Fit',
} as const;
