export { type NeedWords, needWords, PAINT_LIST_WORDS } from './paint-list-words.ts';
export {
  cureWords,
  findingFrames,
  findingSentence,
  findingTitle,
  type Names,
  paintWords,
  SURVEY_KIND_WORDS,
} from './survey-words.ts';
