export {
  fieldFrom,
  landing,
  landedLines,
  loadField,
  lookAtComb,
  readSheet,
  stripField,
  termsAbout,
  type SimulatedRig,
  type SimulatedRoll,
  type SimulatedSight,
} from './simulatedRig';
