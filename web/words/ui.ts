/** Controls of every screen: what it says, in English. */
export const uiWords = {
  onceEverythingIsSaved: 'Once everything is saved',
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
  typeANumber: 'Type a number.',
  thisIsNotANumber: 'This is not a number. Arithmetic such as 1920/2 is fine.',
  thisUnitDoesNotBelong: 'This unit does not belong here.',
  thisDividesByZero: 'This divides by zero.',
} as const;
/** What zooms: what it says, in English. */
export const viewportWords = {
  fit: 'Fit',
} as const;
