export { LEANING_FROM, STATE_WORDS, plumbState, type PlumbState } from './verdict';
