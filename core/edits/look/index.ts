export { setAir, setFilter } from './at-rest.ts';
export { crossToLook, fadeIn, fadeOut, lookRefs } from './fade.ts';
export { focusOn, setIrisForBlur, setKeepBlur } from './focus.ts';
export { addCardBeforeCamera, addLamp, type NewLamp } from './lamp.ts';
export { setBlendMode, setFlicker, setGrade } from './looks.ts';
export { setPassing } from './passing.ts';
export { lookTakenFrom, pasteLook, type TakenLook, takenLookSchema } from './take-along.ts';
