import { assessPass, passReading, type Assessment, type PassReading } from '@/core/calibration';
import type { SettingChange } from '@/core/correction';
import type { Affine } from '@/core/geometry';
import type { Station, StationSet } from '@/core/proof';
import type { LinePick } from '@/core/readings';
import type { OffsetAxis } from '@/core/units';
import type { PlumbState } from '@/core/verdict';

import type { Rig } from './rigs';
import type { StoredSheet } from './sheets';

/* A session as it is read from the log, and what follows from it alone. */

export type Stage = 'print' | 'read' | 'correct' | 'prove' | 'closed';
export type SessionKind = 'calibration' | 'quick-check';

export interface StoredReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick;
  readonly coarseMm: number | null;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly by: string;
  readonly at: Date;
}

/** What carries the correction: the machine's settings, the cut file, or both in turn. */
export type CorrectionWay = 'settings' | 'file' | 'both';

/** What the cut file has to undo, by way; null when it stays as drawn. */
export function fileTransformOf(correction: StoredCorrection, way: CorrectionWay): Affine | null {
  if (way === 'settings') return null;
  return way === 'file' ? correction.wholeTransform : correction.restTransform;
}

export interface StoredCorrection {
  readonly id: string;
  readonly decision: 'correct' | 'leave';
  readonly changes: readonly SettingChange[];
  /** T that a file is to undo when the settings are typed too, and when the file does it all. */
  readonly restTransform: Affine;
  readonly wholeTransform: Affine;
  readonly done: CorrectionWay | 'leave' | null;
  readonly doneBy: string | null;
  readonly doneAt: Date | null;
}

export interface Pass {
  readonly id: string;
  readonly position: number;
  readonly purpose: 'measure' | 'prove';
  readonly set: StationSet;
  readonly load: number;
  readonly settingsAtCut: Readonly<Record<string, number>>;
  /** T that the cut file of this set undoes by itself; null for the file as drawn. */
  readonly fileTransform: Affine | null;
  readonly sheet: StoredSheet;
  readonly stations: readonly Station[];
  readonly readings: readonly StoredReading[];
  readonly correction: StoredCorrection | null;
  readonly createdAt: Date;
}

export interface Session {
  readonly id: string;
  readonly number: number;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly rig: Rig;
  readonly passes: readonly Pass[];
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly closedBy: string | null;
  readonly closedAt: Date | null;
  readonly outcome: PlumbState | null;
  readonly outcomeR95Mm: number | null;
}

/** The pass that is being worked on: the newest. */
export const currentPass = (session: Session): Pass => session.passes.at(-1)!;

/** The newest measuring or proving pass before the current one. */
export const previousPass = (session: Session): Pass | null => session.passes.at(-2) ?? null;

export function passReadings(pass: Pass): PassReading[] {
  return pass.readings.flatMap((r) => {
    const station = pass.stations.find((s) => s.id === r.stationId);
    return station ? [passReading(station, r.axis, r.pick)] : [];
  });
}

/** Settings as they stood when the pass was cut. */
export const settingsAtCut = (rig: Rig, pass: Pass): Rig['settings'] =>
  rig.settings.map((s) => ({ ...s, value: pass.settingsAtCut[s.id] ?? s.value }));

export const assess = (session: Session, pass: Pass): Assessment | null =>
  assessPass(
    passReadings(pass),
    settingsAtCut(session.rig, pass),
    pass.sheet.geometry.spec.workArea,
    session.rig.toleranceMm,
  );
