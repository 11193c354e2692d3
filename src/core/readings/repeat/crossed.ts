import { fQuantile } from '../../statistics';

/**
 * Crossed repeat studies: the same combs read by one or several persons, once or several times each.
 *
 * Model    y = comb + person + comb × person + repeat, all random, balanced; variance components by expected mean squares.
 * Source   intervals by modified large samples: Graybill & Wang 1980 for sums of mean squares, Ting et al. 1990 for
 *          differences, as in Burdick, Borror & Montgomery 2003 (J. Quality Technology 35, 342–354); formulas from memory.
 */

/** y[comb][person][repeat], mm; balanced. */
export type CrossedTable = readonly (readonly (readonly number[])[])[];

/** A variance component, mm²: the estimate is never below nought, its interval says how far it may be from it. */
export interface Component {
  readonly variance: number;
  readonly low: number;
  readonly high: number;
}

export interface CrossedStudy {
  readonly combs: number;
  readonly persons: number;
  readonly repeats: number;
  /** One person reading one comb again. With one reading each, what persons differ by from comb to comb is in it. */
  readonly repeat: Component;
  /** What persons differ by everywhere; null with one person. */
  readonly person: Component | null;
  /** What they differ by from comb to comb; null with one person or one reading each. */
  readonly interaction: Component | null;
  /** One reading by anybody: all of these together. */
  readonly oneReading: Component;
  readonly errorDof: number;
}

interface MeanSquare {
  readonly ms: number;
  readonly dof: number;
}

export const CONFIDENCE = 0.95;
const TAIL = (1 - CONFIDENCE) / 2;

/** How far below and above a mean square lies what it estimates, as shares of it. */
const below = (dof: number): number => 1 - 1 / fQuantile(1 - TAIL, dof, Infinity);
const above = (dof: number): number => 1 / fQuantile(TAIL, dof, Infinity) - 1;

/** Σ cᵢ MSᵢ with all cᵢ ≥ 0. Method: Graybill & Wang 1980; exact for one. */
function sumOf(parts: readonly { readonly times: number; readonly of: MeanSquare }[]): Component {
  const variance = parts.reduce((sum, { times, of }) => sum + times * of.ms, 0);
  const reach = (share: (dof: number) => number): number =>
    Math.hypot(...parts.map(({ times, of }) => share(of.dof) * times * of.ms));
  return { variance, low: Math.max(0, variance - reach(below)), high: variance + reach(above) };
}

/** (MS₁ − MS₂)/by. Method: Ting et al. 1990. */
function differenceOf(first: MeanSquare, second: MeanSquare, by: number): Component {
  const [a, b] = [first.ms, second.ms];
  const [g1, h1] = [below(first.dof), above(first.dof)];
  const [g2, h2] = [below(second.dof), above(second.dof)];
  const fHigh = fQuantile(1 - TAIL, first.dof, second.dof);
  const fLow = fQuantile(TAIL, first.dof, second.dof);
  const g12 = ((fHigh - 1) ** 2 - g1 ** 2 * fHigh ** 2 - h2 ** 2) / fHigh;
  const h12 = ((1 - fLow) ** 2 - h1 ** 2 * fLow ** 2 - g2 ** 2) / fLow;
  const root = (v: number): number => Math.sqrt(Math.max(0, v));
  const low = a - b - root(g1 ** 2 * a ** 2 + h2 ** 2 * b ** 2 + g12 * a * b);
  const high = a - b + root(h1 ** 2 * a ** 2 + g2 ** 2 * b ** 2 + h12 * a * b);
  return { variance: Math.max(0, a - b) / by, low: Math.max(0, low) / by, high: Math.max(0, high) / by };
}

/** The mean squares of a balanced table. */
export function meanSquaresOf(table: CrossedTable) {
  const [n, p, r] = [table.length, table[0]!.length, table[0]![0]!.length];
  const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;
  const cells = table.map((row) => row.map(mean));
  const ofComb = cells.map(mean);
  const ofPerson = cells[0]!.map((_, j) => mean(cells.map((row) => row[j]!)));
  const all = mean(ofComb);
  const squares = (values: readonly number[]): number => values.reduce((sum, v) => sum + v * v, 0);
  const over = (sum: number, dof: number): MeanSquare => ({ ms: dof > 0 ? sum / dof : 0, dof });
  return {
    combs: over(p * r * squares(ofComb.map((m) => m - all)), n - 1),
    persons: over(n * r * squares(ofPerson.map((m) => m - all)), p - 1),
    interaction: over(
      r * squares(cells.flatMap((row, i) => row.map((m, j) => m - ofComb[i]! - ofPerson[j]! + all))),
      (n - 1) * (p - 1),
    ),
    repeats: over(
      squares(table.flatMap((row, i) => row.flatMap((cell, j) => cell.map((v) => v - cells[i]![j]!)))),
      n * p * (r - 1),
    ),
  };
}

/** What a balanced table says of reading; null when nothing was read twice. Shape: at least two combs. */
export function crossedStudy(table: CrossedTable): CrossedStudy | null {
  const [n, p, r] = [table.length, table[0]?.length ?? 0, table[0]?.[0]?.length ?? 0];
  if (n < 2 || p < 1 || r < 1 || (p < 2 && r < 2)) return null;
  const { persons, interaction, repeats } = meanSquaresOf(table);
  const size = { combs: n, persons: p, repeats: r };
  if (p === 1) {
    const repeat = sumOf([{ times: 1, of: repeats }]);
    return { ...size, repeat, person: null, interaction: null, oneReading: repeat, errorDof: repeats.dof };
  }
  const person = differenceOf(persons, interaction, n * r);
  if (r === 1) {
    const repeat = sumOf([{ times: 1, of: interaction }]);
    const oneReading = sumOf([
      { times: 1 / n, of: persons },
      { times: (n - 1) / n, of: interaction },
    ]);
    return { ...size, repeat, person, interaction: null, oneReading, errorDof: interaction.dof };
  }
  return {
    ...size,
    repeat: sumOf([{ times: 1, of: repeats }]),
    person,
    interaction: differenceOf(interaction, repeats, r),
    oneReading: sumOf([
      { times: 1 / (n * r), of: persons },
      { times: (n - 1) / (n * r), of: interaction },
      { times: (r - 1) / r, of: repeats },
    ]),
    errorDof: repeats.dof,
  };
}
