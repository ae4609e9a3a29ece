export { setAir, setFilter, setGrade } from './looks.ts';
export { setPassing } from './passing.ts';
