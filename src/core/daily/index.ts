export {
  correctDaily,
  type Daily,
  type DailyFile,
  type DailyRefusal,
  type Lies,
  type SettledBy,
} from './correctDaily';
export {
  ATTITUDES,
  frameMap,
  HEADINGS,
  isMirrored,
  perpendicular,
  SHEET_FRAME,
  ZEROS,
  zeroOn,
  type FileFrame,
  type FileZero,
  type Heading,
  type Laid,
} from './fileFrame';
export { dailyName } from './dailyName';
export { dailyRefusalText } from './refusals';
export { frameWords, SETTLED_WORDS } from './frameWords';
export {
  formatsIn,
  inFrame,
  NO_SVG,
  sectionFrame,
  sectionMap,
  sectionTransform,
  type SectionFrame,
} from './ownFiles';
export { FILE_WAYS, type FileWay } from './vocabulary';
