export { crossedStudy, meanSquaresOf, type Component, type CrossedStudy } from './crossed';
export {
  DOF_TO_TELL,
  REPEAT_STUDY_VERSION,
  repeatStudy,
  type Advice,
  type Look,
  type RepeatStudy,
} from './study';
