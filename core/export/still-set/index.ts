export {
  homeOnCanvas,
  type StillCanvas,
  type StillField,
  stillCanvas,
  stillFields,
  stillNote,
  stillPlan,
} from './still-set.ts';
