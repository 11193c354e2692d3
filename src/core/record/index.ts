export { MEDIA_TO_TELL, newMedium, type MediumStands } from './betweenMedia';
export {
  expectedByLog,
  LOADS_TO_TELL,
  LOG_PRIOR_VERSION,
  logPrior,
  withLog,
  type LoadTold,
  type LogPrior,
  type WithLog,
} from './logPrior';
export { LEAST_PRINTS, repeatedShift, type PrintShift, type RepeatedShift } from './printShift';
export { plausible, type FigureKind, type Judgement, type Usual } from './plausible';
