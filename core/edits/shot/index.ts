export { deleteMarker, setMarker } from './markers.ts';
export { holdEnds, scaleShotLength, setRateKeepingSeconds } from './retime.ts';
export { GIVEN_AS, type GivenAs, withSetUp } from './set-up.ts';
export { setFrameSize, setRate, setShotLength } from './shot-settings.ts';
export { changeSound, laySound } from './sound.ts';
export { leaveSo, openAgain } from './survey.ts';
export { withoutMove } from './without-move.ts';
