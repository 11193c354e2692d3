export {
  landing,
  landedLines,
  loadField,
  lookAtComb,
  readSheet,
  termsAbout,
  type SimulatedRig,
  type SimulatedSight,
} from './simulatedRig';
