import { START_SD_MM } from './follow';

/** Who says how far out a run starts: first checks of runs on record, what the last calibration left, or nobody. */
export const RUN_START_FROM = ['log', 'calibration', 'assumed'] as const;

export interface RunStart {
  /** Standard deviation of an axis before the first check. */
  readonly sdMm: number;
  readonly from: (typeof RUN_START_FROM)[number];
}

/** Runs from which the log tells how far out a run starts; and between which figures it may. */
const RUNS_TO_TELL = 3;
const RANGE_MM = [0.05, 0.5] as const;

/**
 * How far out a run of this rig starts: root mean square of the first checks of its runs; else what the last calibration
 * left; else what is usual (`START_SD_MM`).
 *
 * Units   mm, a standard deviation an axis, kept between 0.05 and 0.5.
 */
export function startOfRuns(firstChecksMm: readonly number[], calibratedSdMm: number | null): RunStart {
  const told = firstChecksMm.length >= RUNS_TO_TELL;
  const sdMm = told
    ? Math.sqrt(firstChecksMm.reduce((sum, mm) => sum + mm * mm, 0) / (firstChecksMm.length - 1))
    : (calibratedSdMm ?? START_SD_MM);
  return {
    sdMm: Math.min(RANGE_MM[1], Math.max(RANGE_MM[0], sdMm)),
    from: told ? 'log' : calibratedSdMm === null ? 'assumed' : 'calibration',
  };
}
