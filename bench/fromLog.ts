import type { FieldEstimate, AffineField } from '../src/core/fit';
import { fieldAt, fitModel, shrinkForCorrection, zeroField } from '../src/core/fit';
import { NEXT_LOADS_BY_LOG, scatterOfLoads, shiftScatter, worstR95 } from '../src/core/correction';
import { rectLattice } from '../src/core/geometry';
import { normalDeviate, seededRandom, type Random } from '../src/core/random/random';
import { logPrior, withLog, type LoadTold } from '../src/core/record';
import { DEFAULT_LOAD_SCATTER_MM } from '../src/core/tolerance';
import { A4_AREA, A4_CENTRE, observe, proofSheet } from '../test/sheets';

/** A rig with sessions on record: how it walks, how its loads scatter, and what it does before the session at hand. */
export interface LogTrial {
  readonly rigs: number;
  readonly sessions: number;
  readonly loadMm: number;
  /** Walk of the shift from one weekly session to the next, mm. */
  readonly walkMm: number;
  /** A jump that nobody logged, just before the session at hand, mm. */
  readonly jumpMm?: number;
  /** Stations read at hand with the log, and without it. */
  readonly stations?: { readonly withLog: number; readonly without: number };
  readonly seed?: number;
}

export interface LogGain {
  /** Radius that 95 of 100 next loads stay within at the worst place, after correcting by each, mm. */
  readonly withLogMm: number;
  readonly withoutMm: number;
  /** Share of next loads within the radius that was promised with the log, at the worst place. */
  readonly heldShare: number;
  /** Share of rigs of which it was said that they moved. */
  readonly toldShare: number;
}

const WEEK = 7;
const SHEET = proofSheet({ secondSet: false });
const CORNERS = ['1', '3', '7', '9'];
const PLACES = rectLattice(A4_AREA, 3, 3);

const fieldOf = (v: readonly number[]): AffineField => {
  const [b11, b12, b21, b22, exMm, eyMm] = v as [number, number, number, number, number, number];
  return { origin: A4_CENTRE, b11, b12, b21, b22, exMm, eyMm };
};
const vectorOf = (f: AffineField): number[] => [f.b11, f.b12, f.b21, f.b22, f.exMm, f.eyMm];

function read(truth: AffineField, stations: number, random: Random): FieldEstimate {
  const all = observe(SHEET, 1, truth, random);
  const ids = [...new Set(all.map((o) => o.stationId))];
  const kept = stations >= ids.length ? ids : CORNERS.slice(0, stations).map((n) => ids[Number(n) - 1]!);
  const fit = fitModel(
    'affine',
    all.filter((o) => kept.includes(o.stationId)),
    A4_CENTRE,
  );
  if (fit.status !== 'ok') throw new Error(fit.message);
  return { ...fit, noise: { kind: 'given-u', factor: 1 } };
}

const NINE = read(fieldOf([0, 0, 0, 0, 0, 0]), 9, seededRandom(1)).covarianceKnownU;

/** What the log is worth: next loads of simulated rigs, corrected with it and without. */
export function gainFromLog(trial: LogTrial): LogGain {
  const {
    rigs,
    sessions,
    loadMm,
    walkMm,
    jumpMm = 0,
    stations = { withLog: 9, without: 9 },
    seed = 1,
  } = trial;
  const missed = { withLog: PLACES.map((): number[] => []), without: PLACES.map((): number[] => []) };
  let [held, told] = [0, 0];
  for (let rig = 0; rig < rigs; rig += 1) {
    const random = seededRandom(seed * 1e5 + rig);
    const step = (sd: number): number => sd * normalDeviate(random);
    const linear = 0.00005 * (walkMm / 0.01);
    let state = [...[0, 1, 2, 3].map(() => step(0.0008)), step(0.3), step(0.3)];
    const walk = (): void => {
      state = state.map((v, i) => v + step(i < 4 ? linear : walkMm));
    };
    const load = (): AffineField => fieldOf(state.map((v, i) => (i < 4 ? v : v + step(loadMm))));
    const log: LoadTold[] = [];
    for (let s = 0; s < sessions; s += 1) {
      // Nine stations about the middle tell the six coefficients apart: their covariance is nearly diagonal.
      const own = vectorOf(load()).map((v, i) => v + step(Math.sqrt(NINE[i]![i]!)));
      log.push({
        ...{ atDays: WEEK * s, own: fieldOf(own), covariance: NINE },
        ...{ afterEvent: false, typedCovariance: null },
      });
      walk();
    }
    const way = 2 * Math.PI * random();
    state = state.map((v, i) =>
      i === 4 ? v + jumpMm * Math.cos(way) : i === 5 ? v + jumpMm * Math.sin(way) : v,
    );
    const truth = load();
    // What the product knows of the scatter: what the log tells of it, nothing of the truth.
    const scatter = scatterOfLoads(
      log.map(({ own, covariance }) => ({
        ...{ shiftXMm: own.exMm, shiftYMm: own.eyMm, turnRad: 0, turnURad: 0 },
        shiftUMm: Math.sqrt((covariance[4]![4]! + covariance[5]![5]!) / 2),
        ...{ eye: { chi2: 0, dof: 0 }, afterEvent: false },
      })),
      shiftScatter(DEFAULT_LOAD_SCATTER_MM),
    );
    const prior = logPrior(log, A4_AREA, scatter, {
      ...{ atDays: WEEK * sessions, afterEvent: false, typedCovariance: null },
    })!;
    const few = read(truth, stations.withLog, random);
    const joined = withLog(prior, { own: few.field, covariance: few.covarianceKnownU });
    if (joined.moved > 0.5) told += 1;
    const plain = shrinkForCorrection(
      stations.without === stations.withLog ? few : read(truth, stations.without, random),
    ).field;
    const next = load();
    const promised = worstR95(
      { bias: zeroField(A4_CENTRE), covariance: joined.covariance, load: scatter, shares: NEXT_LOADS_BY_LOG },
      A4_AREA,
    );
    PLACES.forEach((p, i) => {
      const miss = (corrected: AffineField): number => {
        const left = fieldAt(fieldOf(vectorOf(next).map((v, k) => v - vectorOf(corrected)[k]!)), p);
        return Math.hypot(left.x, left.y);
      };
      missed.withLog[i]!.push(miss(joined.own));
      missed.without[i]!.push(miss(plain));
      if (p.x === promised.at.x && p.y === promised.at.y && miss(joined.own) <= promised.r95Mm) held += 1;
    });
  }
  const worst = (lists: readonly number[][]): number =>
    Math.max(...lists.map((l) => [...l].sort((a, b) => a - b)[Math.floor(0.95 * l.length)]!));
  return {
    withLogMm: worst(missed.withLog),
    withoutMm: worst(missed.without),
    heldShare: held / rigs,
    toldShare: told / rigs,
  };
}

/** A table for docs/maths.md: what the log is worth, and what a jump nobody logged costs. */
export function logBench(): void {
  for (const loadMm of [0.03, 0.06]) {
    for (const walkMm of [0, 0.005, 0.01]) {
      const g = gainFromLog({ rigs: 600, sessions: 10, loadMm, walkMm });
      console.log(
        `ten sessions, loads ${loadMm}, walk ${walkMm} mm a week: 95 of 100 next loads within ${g.withLogMm.toFixed(3)} mm with the log, ${g.withoutMm.toFixed(3)} without: ${(100 * (1 - g.withLogMm / g.withoutMm)).toFixed(0)} % less; promise held by ${(100 * g.heldShare).toFixed(1)} %`,
      );
    }
    const few = gainFromLog({
      ...{ rigs: 600, sessions: 10, loadMm, walkMm: 0.005 },
      stations: { withLog: 4, without: 9 },
    });
    console.log(
      `four stations with the log over nine without: ${(few.withLogMm / few.withoutMm).toFixed(2)}, loads ${loadMm}`,
    );
    for (const jumpMm of [0.1, 0.3, 0.5]) {
      const j = gainFromLog({ rigs: 600, sessions: 10, loadMm, walkMm: 0.005, jumpMm });
      console.log(
        `a jump of ${jumpMm} mm nobody logged, loads ${loadMm}: ${(j.withLogMm / j.withoutMm).toFixed(2)} of that without the log; told in ${(100 * j.toldShare).toFixed(0)} %`,
      );
    }
  }
}
