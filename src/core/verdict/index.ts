export { LEANING_FROM, PLUMB_STATES, STATE_WORDS, plumbState, type PlumbState } from './verdict';
