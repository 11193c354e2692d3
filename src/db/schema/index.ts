/*
 * The tables of a shop, one file a place. Lengths in mm, angles in radians, unless a column says otherwise.
 * JSON columns are read through the codecs of `src/db/stored`.
 */
export { driftEstimates, tapeMeasures } from './drift';
export { correctedFiles, fileContents } from './files';
export { foundTerms } from './foundTerms';
export { machines, machineSettings, mats, tools } from './machines';
export { settingChanges, settingValues } from './settingValues';
export { changeOvers, events } from './happened';
export { rigs } from './rigs';
export { remediesTried } from './marks';
export { ownPages } from './ownPages';
export { runChecks, runEvents, runFiles, runs, runSections } from './runs';
export {
  corrections,
  fits,
  lengths,
  passes,
  proofSheets,
  readings,
  repeatReadings,
  sessions,
} from './sessions';
export { media, setups } from './setups';
export {
  artworks,
  printPlacements,
  printShifts,
  sheetCuts,
  sheetJobPieces,
  sheetJobs,
  witnesses,
} from './sheetJobs';
export { acts, shopFacts } from './shop';
export { standingCorrections } from './standing';
