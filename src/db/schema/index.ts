/*
 * The tables of a shop, one file a place. Lengths in mm, angles in radians, unless a column says otherwise.
 * JSON columns are read through the Zod schemas of `src/server/<place>/stored.ts` and `src/shapes`.
 */
export { driftEstimates, tapeMeasures } from './drift';
export { correctedFiles, fileContents } from './files';
export { machines, machineSettings, mats, settingChanges, settingValues, tools } from './machines';
export { changeOvers, events, rigs } from './rigs';
export { runChecks, runEvents, runFiles, runs, runSections } from './runs';
export { corrections, fits, passes, proofSheets, readings, sessions } from './sessions';
export { media, setups } from './setups';
export { acts, shopFacts } from './shop';
export { standingCorrections } from './standing';
