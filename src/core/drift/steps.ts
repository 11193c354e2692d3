import type { DriftRun } from './types';

export const BEGIN = 0;

export const REGISTER = 1;

export const ADVANCE = 2;

export const SLIP = 3;

const READ = 4;

export const REGISTER_SLIPPED = 5;

/** Runs written as one list of steps; made once, filtered many times. */
export interface DriftSteps {
  readonly kinds: Uint8Array;
  /** ADVANCE: Δy in m. READ: offset in mm. */
  readonly first: Float64Array;
  /** ADVANCE: Δ(y²) in m². READ: weight of the reading’s variance. */
  readonly second: Float64Array;
  /** READ: which reading, counted over all runs; otherwise −1. */
  readonly reading: Int32Array;
  readonly places: readonly ReadingPlace[];
}

export interface ReadingPlace {
  readonly runId: string;
  readonly index: number;
  readonly yM: number;
  /** Distance of the reading before it in its run; null for the first. */
  readonly previousM: number | null;
  /** Whether the cutter registered between that one and this. */
  readonly registeredBetween: boolean;
}

/** Median square of the readings’ standard uncertainties: the variance that weight 1 stands for. A few coarse readings do not move it. */
export function medianSquareU(runs: readonly DriftRun[]): number {
  const all = runs.flatMap((r) => r.readings.map((reading) => reading.uMm ** 2)).sort((a, b) => a - b);
  return all[Math.floor((all.length - 1) / 2)] ?? 0.035 ** 2;
}

/** A place ahead of the last run’s readings, for a prediction. */
export interface PlaceAhead {
  readonly yM: number;
  /** Where the cutter will register before it; null when it goes on as it is. */
  readonly registeredAtM: number | null;
}

/**
 * `unitVarMm2` is the reading variance that weight 1 stands for; readings with other u count accordingly.
 * With `ahead` the steps end at that place.
 */
export function stepsOf(
  runs: readonly DriftRun[],
  unitVarMm2 = medianSquareU(runs),
  ahead: PlaceAhead | null = null,
): DriftSteps {
  const list: [kind: number, first: number, second: number, reading: number][] = [];
  const places: ReadingPlace[] = [];
  for (const run of runs) {
    const registrations = [...run.registeredAtM].sort((a, b) => a - b);
    const slips = new Set(run.slipsBefore ?? []);
    let at = registrations[0] ?? 0;
    let next = 1;
    list.push([BEGIN, 0, 0, -1], [REGISTER, 0, 0, -1]);
    const advance = (to: number): void => {
      if (to > at) list.push([ADVANCE, to - at, to * to - at * at, -1]);
      at = Math.max(at, to);
    };
    run.readings.forEach((reading, index) => {
      let registered = false;
      while (next < registrations.length && registrations[next]! <= reading.yM) {
        advance(registrations[next]!);
        next += 1;
        const last = next >= registrations.length || registrations[next]! > reading.yM;
        list.push([last && slips.has(index) ? REGISTER_SLIPPED : REGISTER, 0, 0, -1]);
        registered = true;
      }
      advance(reading.yM);
      if (slips.has(index) && !registered) list.push([SLIP, 0, 0, -1]);
      list.push([READ, reading.offsetMm, reading.uMm ** 2 / unitVarMm2, places.length]);
      places.push({
        runId: run.id,
        index,
        yM: reading.yM,
        previousM: index > 0 ? run.readings[index - 1]!.yM : null,
        registeredBetween: registered && index > 0,
      });
    });
    if (ahead !== null && run === runs.at(-1)) {
      const registrationsAhead = registrations.slice(next).filter((y) => y <= ahead.yM);
      if (ahead.registeredAtM !== null) registrationsAhead.push(ahead.registeredAtM);
      for (const y of registrationsAhead) {
        advance(y);
        list.push([REGISTER, 0, 0, -1]);
      }
      advance(ahead.yM);
    }
  }
  return {
    kinds: Uint8Array.from(list, (s) => s[0]),
    first: Float64Array.from(list, (s) => s[1]),
    second: Float64Array.from(list, (s) => s[2]),
    reading: Int32Array.from(list, (s) => s[3]),
    places,
  };
}

/** Calls back for each step of the runs, in order. */
export function forEachStep(
  steps: DriftSteps,
  on: {
    readonly begin: () => void;
    readonly register: () => void;
    readonly advance: (dyM: number) => void;
    readonly read: (reading: number, weight: number) => void;
  },
): void {
  for (let s = 0; s < steps.kinds.length; s += 1) {
    const kind = steps.kinds[s]!;
    if (kind === BEGIN) on.begin();
    else if (kind === REGISTER || kind === REGISTER_SLIPPED) on.register();
    else if (kind === ADVANCE) on.advance(steps.first[s]!);
    else if (kind === READ) on.read(steps.reading[s]!, steps.second[s]!);
  }
}
