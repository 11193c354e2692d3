import type { AffineField } from '../fit';
import type { Point } from '../geometry';
import { MM_PER_INCH } from '../units';

/** A value this close to a whole number of steps, in steps, is one. */
const OF_A_STEP = 1e-6;

/** What a setting does to the cut: moves it, stretches it, stretches it by a typed length, turns it. */
export const SETTING_KINDS = ['offset', 'scale', 'length', 'turn'] as const;
export type SettingKind = (typeof SETTING_KINDS)[number];

/** Units that machines show their figures in; a length setting takes a measured length. */
export const SETTING_UNITS = ['mm', 'in', 'percent', 'permille', 'mm-per-m', 'degree'] as const;
export type SettingUnit = (typeof SETTING_UNITS)[number];

export const UNITS_OF_KIND: Readonly<Record<SettingKind, readonly SettingUnit[]>> = {
  offset: ['mm', 'in'],
  scale: ['percent', 'permille', 'mm-per-m'],
  length: ['mm', 'in'],
  turn: ['degree', 'mm-per-m'],
};

/** Which way adding 1 to a setting moves, stretches or turns where the cut lands. */
export const EFFECT_DIRECTIONS = [
  'right',
  'left',
  'further',
  'back',
  'wider',
  'narrower',
  'longer',
  'shorter',
  'anticlockwise',
  'clockwise',
] as const;
export type EffectDirection = (typeof EFFECT_DIRECTIONS)[number];

const OPPOSITES: readonly (readonly [EffectDirection, EffectDirection])[] = [
  ['right', 'left'],
  ['further', 'back'],
  ['wider', 'narrower'],
  ['longer', 'shorter'],
  ['anticlockwise', 'clockwise'],
];

/** Which way taking 1 off a setting goes that goes this way for adding 1. */
export function oppositeOf(direction: EffectDirection): EffectDirection {
  const [a, b] = OPPOSITES.find((pair) => pair.includes(direction))!;
  return direction === a ? b : a;
}

const STRETCHES = ['wider', 'narrower', 'longer', 'shorter'] as const;

export const DIRECTIONS_OF_KIND: Readonly<Record<SettingKind, readonly EffectDirection[]>> = {
  offset: ['right', 'left', 'further', 'back'],
  scale: STRETCHES,
  length: STRETCHES,
  turn: ['anticlockwise', 'clockwise'],
};

/** How a setting is described by the operator; its effect follows. */
export interface DeclaredEffect {
  readonly kind: SettingKind;
  readonly unit: SettingUnit;
  readonly direction: EffectDirection;
  /** The place that a stretch or a turn leaves where it is, sheet frame, mm. */
  readonly anchor: Point;
  /** Of a length setting: the length that was commanded and is compared with the typed one, mm. */
  readonly nominalMm: number | null;
}

/** A figure the operator can type into the machine. `value`, `step`, `min` and `max` are in its own unit. */
export interface MachineSetting {
  readonly id: string;
  readonly name: string;
  readonly step: number;
  readonly value: number;
  readonly min: number | null;
  readonly max: number | null;
  /** Displacement of the cut for +1 on the setting. */
  readonly effect: AffineField;
  /** Standard uncertainty of the effect as a share of it; DECLARED_EFFECT_U when absent. */
  readonly effectU?: number;
}

/** Standard uncertainty of a declared effect, as a share of it, until a proof has shown what the setting does. */
export const DECLARED_EFFECT_U = 0.05;

/** What +1 in the unit amounts to: mm for offsets and lengths, a share for scales, radians for turns. */
const PER_ONE: Readonly<Record<SettingUnit, number>> = {
  mm: 1,
  in: MM_PER_INCH,
  percent: 0.01,
  permille: 0.001,
  'mm-per-m': 0.001,
  degree: Math.PI / 180,
};

const NEGATIVE: readonly EffectDirection[] = ['left', 'back', 'narrower', 'shorter', 'clockwise'];
const ACROSS: readonly EffectDirection[] = ['right', 'left', 'wider', 'narrower'];

/**
 * The displacement of the cut for +1 on a setting, to first order.
 *
 * A length setting is read as: the machine takes `nominalMm` to be as long as what is typed, so +1 mm stretches
 * (or shrinks, by its direction) everything by 1/nominalMm. Turns and stretches leave the anchor in place.
 */
export function declaredEffect(declared: DeclaredEffect): AffineField {
  const { kind, unit, direction, anchor, nominalMm } = declared;
  const size = (NEGATIVE.includes(direction) ? -1 : 1) * PER_ONE[unit];
  const none = { origin: anchor, b11: 0, b12: 0, b21: 0, b22: 0, exMm: 0, eyMm: 0 };
  const across = ACROSS.includes(direction);
  switch (kind) {
    case 'offset':
      return across ? { ...none, exMm: size } : { ...none, eyMm: size };
    case 'scale':
      return across ? { ...none, b11: size } : { ...none, b22: size };
    case 'length': {
      const share = size / (nominalMm ?? 100);
      return across ? { ...none, b11: share } : { ...none, b22: share };
    }
    case 'turn':
      return { ...none, b12: -size, b21: size };
    default:
      return kind satisfies never;
  }
}

/** Where the setting's steps stand: on multiples of the step, or counted from an odd current value. */
export function stepOrigin(setting: MachineSetting): number {
  const steps = setting.value / setting.step;
  return Math.abs(steps - Math.round(steps)) < OF_A_STEP ? 0 : setting.value;
}

/** Whole steps that the range allows, counted from the current value: lowest ≤ 0 ≤ highest when it lies inside. */
export function stepRange(setting: MachineSetting): { readonly lowest: number; readonly highest: number } {
  const origin = stepOrigin(setting);
  const now = Math.round((setting.value - origin) / setting.step);
  const steps = (value: number): number => (value - origin) / setting.step - now;
  return {
    lowest: setting.min === null ? -Infinity : Math.ceil(steps(setting.min) - OF_A_STEP),
    highest: setting.max === null ? Infinity : Math.floor(steps(setting.max) + OF_A_STEP),
  };
}

/** The value some whole steps away, without the binary dust of 0.1·3. */
export const afterSteps = (setting: MachineSetting, steps: number): number =>
  steps === 0 ? setting.value : Number((setting.value + steps * setting.step).toFixed(9));
