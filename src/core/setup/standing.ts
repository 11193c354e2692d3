import type { Affine } from '../geometry';
import type { PlumbState } from '../verdict';
import type { Kept, StandingSource } from './vocabulary';

/** A setting as its machine shows it, and as a setup wants it; both in the setting's own unit. */
export interface ShownSetting {
  readonly id: string;
  readonly step: number;
  readonly kept: Kept;
  /** What the machine shows now, for this setup’s medium where it keeps one for each. */
  readonly value: number;
  readonly wanted: number;
}

/** What a change-over asks for one setting: type it, leave it, or only look, since the machine brings it back by itself. */
export type Deed = 'type' | 'leave' | 'look';

/** Far below the smallest step that a machine takes: figures that differ by less are one figure. */
const SAME_OF_A_STEP = 1e-3;

/** Whether two values of a setting are one figure on its machine. */
export const sameFigure = (a: number, b: number, step: number): boolean =>
  Math.abs(a - b) <= SAME_OF_A_STEP * step;

export function deedOf(setting: ShownSetting): Deed {
  if (!sameFigure(setting.value, setting.wanted, setting.step)) return 'type';
  return setting.kept === 'per-medium' ? 'look' : 'leave';
}

/** What has to be typed before a setup runs; empty when its machines show what it wants. */
export const toType = <S extends ShownSetting>(settings: readonly S[]): S[] =>
  settings.filter((s) => deedOf(s) === 'type');

/** What a setup’s settings shall show and what its cut files carry. */
export interface Standing {
  readonly settings: Readonly<Record<string, number>>;
  /** T that cut files undo; null for files as drawn. */
  readonly fileTransform: Affine | null;
}

/** What a calibration ended with: the last set that was cut, and what its reading said. */
export interface Ended extends Standing {
  /** A correction was carried out before this set was cut. */
  readonly corrected: boolean;
  /** What the set said; null when it was not read. */
  readonly outcome: PlumbState | null;
}

export interface Steps {
  readonly [settingId: string]: number;
}

/** Whether two standings come to the same cut: each figure the same to its machine, and the file’s part. */
export function sameStanding(a: Standing, b: Standing, steps: Steps): boolean {
  const settings = Object.keys(steps).every((id) =>
    sameFigure(a.settings[id] ?? b.settings[id] ?? 0, b.settings[id] ?? a.settings[id] ?? 0, steps[id]!),
  );
  return settings && JSON.stringify(a.fileTransform) === JSON.stringify(b.fileTransform);
}

/**
 * What becomes of a setup’s standing correction when a calibration is closed. Only a set that was read and stayed
 * within what is allowed replaces it; anything else only when somebody says so. Null: it stays.
 */
export function standingAfter(
  before: Standing,
  ended: Ended,
  steps: Steps,
  accepted: boolean,
): { readonly source: StandingSource } | null {
  if (sameStanding(before, ended, steps)) return null;
  const proved = ended.outcome === 'plumb' || ended.outcome === 'leaning';
  if (proved) return { source: 'proved' };
  return accepted && ended.corrected ? { source: 'accepted' } : null;
}
