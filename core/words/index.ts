export {
  cureWords,
  findingFrames,
  findingSentence,
  findingTitle,
  type Names,
  SURVEY_KIND_WORDS,
} from './survey-words.ts';
