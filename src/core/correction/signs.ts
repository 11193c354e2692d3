import { CholeskyDecomposition, Matrix, solve } from 'ml-matrix';

import type { AffineField } from '../fit';
import { Marginal } from '../statistics';

import { effectVector, type ChangeOnRecord } from './provedEffects';
import { DECLARED_EFFECT_U, oppositeOf, type EffectDirection, type MachineSetting } from './setting';

/*
 * Signs, once and for all: a sheet that was cut before and after typing tells whether each setting did what it is declared
 * to do, or the opposite, nothing at all, the same along the other axis, or the same in another unit.
 */

/** What a setting may have done instead of what it is declared to do. */
export const DONE_INSTEAD = [
  'reversed',
  'other-axis',
  'other-axis-reversed',
  'nothing',
  'other-unit',
  'unclear',
] as const;
export type DoneInstead = (typeof DONE_INSTEAD)[number];

/** A setting that did something else than it is declared to do. */
export interface Contradiction {
  readonly settingId: string;
  readonly did: DoneInstead;
  /** How many times what it says, where its unit is another one. */
  readonly times: number;
  readonly probability: number;
}

interface Deed {
  readonly did: DoneInstead | null;
  readonly times: number;
  readonly of: 'own' | 'other';
}

/** One in so many settings is declared wrongly in any one of these ways; no source. */
const WRONG_PRIOR = 0.01;
/** Something else that nobody mentions moved the cut as well: as often, and by about so much. */
const ELSE_PRIOR = 0.02;
const ELSE_MM = 1;
const ELSE_SHARE = 0.003;
/** Below this nothing is said. */
const SURE = 0.95;

const AS_DECLARED: Deed = { did: null, times: 1, of: 'own' };
/** Inches taken for millimetres, and tens: the other way round it is hardly told from nothing. */
const UNIT_FACTORS = [25.4, 10];
const DEEDS: readonly Deed[] = [
  { did: 'reversed', times: -1, of: 'own' },
  { did: 'nothing', times: 0, of: 'own' },
  { did: 'other-axis', times: 1, of: 'other' },
  { did: 'other-axis-reversed', times: -1, of: 'other' },
  ...UNIT_FACTORS.map((times): Deed => ({ did: 'other-unit', times, of: 'own' })),
];

/**
 * The settings of which a change on record says that they did something else than declared; empty when all did as they say,
 * when what was typed is too small to tell, or when something else moved the cut.
 *
 * Shapes   `change.covariance` 6 × 6 of `moved`; `registerSdMm` how far two registrations of the load differ, an axis.
 * Method   posterior over what up to two settings did, each as declared but for 5 %, or in one of the ways above, or with an
 *          unknown movement beside it: Gaussian evidence of six coefficients, marginal by setting.
 */
export function contradictions(
  settings: readonly Pick<MachineSetting, 'id' | 'effect'>[],
  change: ChangeOnRecord,
  registerSdMm: number,
): Contradiction[] {
  const told = deedsOf(settings, change, registerSdMm, NONE);
  return settings.flatMap((s) => {
    const deeds = told.get(s.id);
    if (!deeds) return [];
    const wrong = [...deeds].filter(([deed]) => deed.did !== null);
    const probability = wrong.reduce((sum, [, p]) => sum + p, 0);
    if (probability < SURE) return [];
    const [deed, share] = wrong.reduce((a, b) => (b[1] > a[1] ? b : a));
    return [
      share >= SURE * probability
        ? { settingId: s.id, did: deed.did!, times: deed.times, probability }
        : { settingId: s.id, did: 'unclear' as const, times: 1, probability },
    ];
  });
}
const NONE: ReadonlySet<string> = new Set();

/** Which way a pushed setting went, beside the direction that it stood under; null: as that; and how sure that is. */
export interface Pushed {
  readonly settingId: string;
  readonly did: DoneInstead | null;
  readonly times: number;
}

/** What a push tells of the settings whose direction nobody knew; all four ways were as likely before. */
export function pushed(
  settings: readonly Pick<MachineSetting, 'id' | 'effect'>[],
  unknown: ReadonlySet<string>,
  change: ChangeOnRecord,
  registerSdMm: number,
): Pushed[] {
  const told = deedsOf(settings, change, registerSdMm, unknown);
  return settings.flatMap(({ id: settingId }) => {
    const deeds = unknown.has(settingId) ? told.get(settingId) : undefined;
    if (!deeds) return [];
    const all = [...deeds.values()].reduce((sum, p) => sum + p, 0);
    const [deed, share] = [...deeds].reduce((a, b) => (b[1] > a[1] ? b : a));
    return [
      share >= SURE && all >= SURE
        ? { settingId, did: deed.did, times: deed.times }
        : { settingId, did: 'unclear' as const, times: 1 },
    ];
  });
}

/** How likely each deed of each setting that was typed is; nothing of the others. */
function deedsOf(
  settings: readonly Pick<MachineSetting, 'id' | 'effect'>[],
  change: ChangeOnRecord,
  registerSdMm: number,
  unknown: ReadonlySet<string>,
): ReadonlyMap<string, ReadonlyMap<Deed, number>> {
  const typed = settings.filter((s) => (change.by[s.id] ?? 0) !== 0);
  if (typed.length === 0) return new Map();
  const free = typed.map((s) => unknown.has(s.id));
  const { origin } = change.moved;
  const does = typed.map((s) => ({
    own: effectVector(s.effect, origin).map((v) => v * change.by[s.id]!),
    other: effectVector(onOtherAxis(s.effect), origin).map((v) => v * change.by[s.id]!),
  }));
  const noise = change.covariance.map((row, i) =>
    row.map((v, j) => v + (i === j && i > 3 ? registerSdMm ** 2 : 0)),
  );
  const moved = effectVector(change.moved, origin);
  const seen = whiten(noise, moved, does);
  const weights: { readonly log: number; readonly deeds: readonly Deed[] | null }[] = [];
  for (const deeds of combinations(typed.length)) {
    const log = mistakes(deeds, free) * Math.log(WRONG_PRIOR) + evidence(seen, deeds);
    weights.push({ log, deeds });
  }
  const anything = noise.map((row, i) =>
    row.map((v, j) => v + (i === j ? (i > 3 ? ELSE_MM : ELSE_SHARE) ** 2 : 0)),
  );
  const declared = typed.map(() => AS_DECLARED);
  weights.push({
    log: Math.log(ELSE_PRIOR) + evidence(whiten(anything, moved, does), declared),
    deeds: null,
  });
  const most = Math.max(...weights.map((w) => w.log));
  const shares = weights.map((w) => ({ ...w, share: Math.exp(w.log - most) }));
  const all = shares.reduce((sum, w) => sum + w.share, 0);
  return new Map(
    typed.map((s, k) => {
      const by = new Map<Deed, number>();
      for (const { deeds, share } of shares)
        if (deeds) by.set(deeds[k]!, (by.get(deeds[k]!) ?? 0) + share / all);
      return [s.id, by] as const;
    }),
  );
}

const DIRECTIONAL: ReadonlySet<DoneInstead> = new Set(['reversed', 'other-axis', 'other-axis-reversed']);

/** Mistakes that were made: axes taken one for the other are one. */
function mistakes(deeds: readonly Deed[], free: readonly boolean[]): number {
  // Of a setting whose direction nobody knows no direction is a mistake.
  const wrong = deeds.filter((d, i) => d.did !== null && !(free[i] && DIRECTIONAL.has(d.did)));
  const swapped = wrong.length === 2 && wrong[0] === wrong[1] && wrong[0]!.did === 'other-axis';
  return swapped ? 1 : wrong.length;
}

/** Every way in which at most two of so many settings did something else: axes swapped are two. */
function* combinations(count: number): Generator<readonly Deed[]> {
  const declared = Array.from({ length: count }, () => AS_DECLARED);
  yield declared;
  for (let i = 0; i < count; i += 1)
    for (const one of DEEDS) {
      yield declared.with(i, one);
      for (let j = i + 1; j < count; j += 1)
        for (const two of DEEDS) yield declared.with(i, one).with(j, two);
    }
}

/** What was seen and what each setting does, in units in which the noise is one in every direction. */
interface Whitened {
  readonly moved: readonly number[];
  readonly does: readonly Does[];
  readonly logDet: number;
}
interface Does {
  readonly own: readonly number[];
  readonly other: readonly number[];
}

function whiten(
  noise: readonly (readonly number[])[],
  moved: readonly number[],
  does: readonly Does[],
): Whitened {
  const symmetric = noise.map((row, i) => row.map((v, j) => (v + noise[j]![i]!) / 2));
  const factor = new CholeskyDecomposition(new Matrix(symmetric)).lowerTriangularMatrix;
  const out = (v: readonly number[]): number[] => solve(factor, Matrix.columnVector([...v])).to1DArray();
  return {
    moved: out(moved),
    does: does.map((d) => ({ own: out(d.own), other: out(d.other) })),
    logDet: factor.diagonal().reduce((sum, v) => sum + 2 * Math.log(v), 0),
  };
}

/** Log evidence, constants left out: every deed is known to 5 % of it. */
function evidence({ moved, does, logDet }: Whitened, deeds: readonly Deed[]): number {
  const left = [...moved];
  const columns = does.map((d, k) => {
    const { of, times } = deeds[k]!;
    return d[of].map((v, i) => {
      left[i]! -= v * times;
      return DECLARED_EFFECT_U * v * times;
    });
  });
  return new Marginal(left, ONES, []).with(columns).log - logDet / 2;
}
const ONES = [1, 1, 1, 1, 1, 1];

/** What it does, done along the other axis: across becomes along and along across, a swap of axes and no turn. */
const onOtherAxis = ({ origin, b11, b12, b21, b22, exMm, eyMm }: AffineField): AffineField => ({
  ...{ origin, b11: b22, b12: b21, b21: b12, b22: b11 },
  ...{ exMm: eyMm, eyMm: exMm },
});

const OTHER_AXIS: Readonly<Partial<Record<EffectDirection, EffectDirection>>> = {
  right: 'further',
  left: 'back',
  further: 'right',
  back: 'left',
  wider: 'longer',
  narrower: 'shorter',
  longer: 'wider',
  shorter: 'narrower',
};

/** The direction that a setting really has, by what it did; null where its direction is not what is wrong. */
export function trueDirection(declared: EffectDirection, did: DoneInstead): EffectDirection | null {
  switch (did) {
    case 'reversed':
      return oppositeOf(declared);
    case 'other-axis':
      return OTHER_AXIS[declared] ?? null;
    case 'other-axis-reversed': {
      const other = OTHER_AXIS[declared];
      return other ? oppositeOf(other) : null;
    }
    case 'nothing':
    case 'other-unit':
    case 'unclear':
      return null;
    default:
      return did satisfies never;
  }
}
