export { LEANING_FROM, PLUMB_STATES, STATE_WORDS, plumbState, type PlumbState } from './verdict';
export { setupState, type SetupLog, type SetupState } from './setupState';
