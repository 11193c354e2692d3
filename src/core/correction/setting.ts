import type { AffineField } from '../fit';
import type { LengthUnit } from '../units';
import { WHOLE_STEP_GUARD } from '../tolerance';

/** Which way adding 1 to a setting moves where the cut lands. */
export type EffectDirection = 'right' | 'left' | 'further' | 'back';

/** A figure the operator can type into the machine. `value`, `step`, `min` and `max` are in `unit`. */
export interface MachineSetting {
  readonly id: string;
  readonly name: string;
  readonly unit: LengthUnit;
  readonly step: number;
  readonly value: number;
  readonly min: number | null;
  readonly max: number | null;
  /** Displacement of the cut for +1 on the setting. */
  readonly effect: AffineField;
}

/** The declared effect of an offset setting: +1 moves the whole cut one way by one unit. */
export function offsetEffect(direction: EffectDirection, mmPerOne: number): AffineField {
  const sign = direction === 'right' || direction === 'further' ? 1 : -1;
  const across = direction === 'right' || direction === 'left';
  return {
    origin: { x: 0, y: 0 },
    b11: 0,
    b12: 0,
    b21: 0,
    b22: 0,
    exMm: across ? sign * mmPerOne : 0,
    eyMm: across ? 0 : sign * mmPerOne,
  };
}

/** Where the setting's steps stand: on multiples of the step, or counted from an odd current value. */
export function stepOrigin(setting: MachineSetting): number {
  const steps = setting.value / setting.step;
  return Math.abs(steps - Math.round(steps)) < 1e-6 ? 0 : setting.value;
}

/** Whole steps at or below (and above) a value, inside the range; one or two candidates. */
export function stepNeighbours(setting: MachineSetting, wanted: number): number[] {
  const origin = stepOrigin(setting);
  const exact = (wanted - origin) / setting.step;
  const whole = Math.round(exact);
  const steps = Math.abs(exact - whole) < WHOLE_STEP_GUARD ? [whole] : [Math.floor(exact), Math.ceil(exact)];
  const lowest = setting.min === null ? -Infinity : Math.ceil((setting.min - origin) / setting.step - 1e-6);
  const highest = setting.max === null ? Infinity : Math.floor((setting.max - origin) / setting.step + 1e-6);
  const clamped = steps.map((s) => Math.min(highest, Math.max(lowest, s)));
  return [...new Set(clamped)].map((s) => tidy(origin + s * setting.step));
}

/** Takes the binary dust off a decimal step: 0.1·3 → 0.3. */
const tidy = (value: number): number => Number(value.toFixed(9));
