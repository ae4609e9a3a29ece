/** Controls of every screen: what it says, in English. */
export const uiWords = {
  cancel: 'Cancel',
  widthOfTheDock: 'Width of the dock',
  heightOfTheDock: 'Height of the dock',
  foldLabel: (label: string | number) => `Fold ${label}`,
  pickValue: (value: string | number) => `Pick ${value}`,
  views: 'Views',
  closeName: (name: string | number) => `Close ${name}`,
  nameBesideTheOther: (name: string | number) => `${name} beside the other`,
  closeThisView: 'Close this view',
  besideTheOtherView: 'Beside the other view',
} as const;
/** What zooms: what it says, in English. */
export const viewportWords = {
  fit: 'Fit',
} as const;
