/** Views beside the picture: what it says, in English. */
export const viewsWords = {
  theStageFromAroundDrag:
    'The stage from around. Drag to go round it; click a card to choose its plane, drag a chosen card along its depth.',
  thisBrowserHasNoWebgl: 'This browser has no WebGL, which this view needs. The other views do not.',
  fromTheStart: 'From the start',
  fieldingTheWholePaintingWith:
    'Fielding: the whole painting, with the frames of the move to drag, size and turn.',
  framesOfTheMove: 'Frames of the move',
  fieldAtFrameFrameArrows: (frame: string | number) =>
    `Field at frame ${frame}: arrows pan, plus and minus size, brackets turn`,
} as const;
