import {
  effectUOf,
  provedEffects,
  pushesOf,
  type CorrectionPlan,
  type Push,
  type SettingChange,
} from '@/core/correction';
import { type Affine } from '@/core/geometry';
import type { Station, StationSet } from '@/core/proof';
import type { LinePick } from '@/core/comb';
import type { OffsetAxis } from '@/core/units';
import type { PlumbState } from '@/core/verdict';

import { type SetupRecord } from '@/server/setups/setupRecord';
import type { Setup } from '@/server/setups/setup';
import type { Changeable, CorrectionWay, PASS_PURPOSES, SessionKind, Stage } from '@/core/setup';
import type { PrintRecipe } from '@/server/setups/shapes';
import {
  passReading,
  type KeptLength,
  type OtherPick,
  type OtherReading,
  type PassReading,
} from '@/core/readings';
import { otherPassReading } from '@/core/readings/registry';
import type { StoredSheet } from './sheets';

/* A session as it is read from the log, and what follows from it alone. */

export const NOT_FOUND = { code: 'not-found', what: 'session' } as const;
export const CLOSED = {
  code: 'refused',
  message: 'This session is closed. Start a new one from the bench.',
} as const;

export interface StoredReading {
  readonly id: string;
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly pick: LinePick | OtherPick;
  readonly xMm: number;
  readonly yMm: number;
  readonly coarseMm: number | null;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly by: string;
  readonly at: Date;
  /** Who left it out of the fit; null while it counts. */
  readonly setAsideBy: string | null;
}

/** A length as it was measured, and by whom. */
export interface StoredLength extends KeptLength {
  readonly id: string;
  readonly by: string;
}

/** The stations of a set as places between which lengths are measured: middle to middle. */
export const featuresOf = (pass: Pick<Pass, 'stations'>) =>
  pass.stations.map(({ id, centre }) => ({ id, x: centre.x, y: centre.y }));

/** What the cut file has to undo, by way; null when it stays as drawn. */
export function fileTransformOf(correction: StoredCorrection, way: CorrectionWay): Affine | null {
  if (way === 'settings' || way === 'machine-page' || way === 'push') return null;
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
  readonly purpose: (typeof PASS_PURPOSES)[number];
  readonly set: StationSet;
  readonly load: number;
  readonly settingsAtCut: Readonly<Record<string, number>>;
  /** T that the cut file of this set undoes by itself; null for the file as drawn. */
  readonly fileTransform: Affine | null;
  /** The print recipe as it stood when the sheet was printed; null before. */
  readonly recipe: PrintRecipe | null;
  /** What the check bars were measured to be, mm. */
  readonly barAcrossMm: number | null;
  readonly barAlongMm: number | null;
  readonly sheet: StoredSheet;
  readonly stations: readonly Station[];
  readonly readings: readonly StoredReading[];
  /** Long lengths between its stations. */
  readonly lengths: readonly StoredLength[];
  readonly correction: StoredCorrection | null;
  readonly createdAt: Date;
}

export interface Session {
  readonly id: string;
  readonly number: number;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly setup: Setup;
  readonly passes: readonly Pass[];
  /** What the sessions before this one tell of the rig: how much loads differ, what its settings do. */
  readonly record: SetupRecord;
  /** Acuity of this rig's readers as their newest repeat study before this session saw it; null: as assumed. */
  readonly acuityMm: number | null;
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly closedBy: string | null;
  readonly closedAt: Date | null;
  readonly outcome: PlumbState | null;
  readonly outcomeR95Mm: number | null;
  /** Started by mistake and thrown away. */
  readonly discarded: boolean;
  /** Closed with a correction carried out whose proof was not read. */
  readonly unproved: boolean;
  /** Counts its steps: what a page sends back with the next one. */
  readonly version: number;
  /** Counts everything that was kept of it. */
  readonly changes: number;
}

/** What a page tells its buttons of the session that it shows. */
export interface SessionState {
  readonly id: string;
  readonly version: number;
}
export const stateOf = ({ id, version }: Session): SessionState => ({ id, version });

/** What a sheet is called in a sentence: by its own number, or by that of the job in whose waste it was printed. */
export const sheetName = ({ label, geometry }: StoredSheet): string =>
  geometry.printedOn ? `the witness of ${geometry.printedOn}` : `sheet ${label}`;

/** The pass that is being worked on: the newest. */
export const currentPass = (session: Session): Pass => session.passes.at(-1)!;

/** The newest measuring or proving pass before the current one. */
export const previousPass = (session: Session): Pass | null => session.passes.at(-2) ?? null;

/** The readings that count: what the operator set aside stays in the log only. */
export function passReadings({ acuityMm }: Pick<Session, 'acuityMm'>, pass: Pass): PassReading[] {
  return pass.readings.flatMap((r) => {
    if (r.setAsideBy !== null) return [];
    if (isOther(r)) return [otherPassReading(r)];
    const station = pass.stations.find((s) => s.id === r.stationId);
    return station && 'line' in r.pick ? [passReading(station, r.axis, r.pick, r.coarseMm, acuityMm)] : [];
  });
}

/** Whether its sheet is read by two picks. */
export const isShort = ({ sheet }: Pick<Pass, 'sheet'>): boolean => sheet.geometry.spec.readBy === 'short';

/** Whether a reading is another way’s than the combs’. */
export const isOther = (r: StoredReading): r is StoredReading & OtherReading => 'school' in r.pick;

/** Settings as they stood when the pass was cut, with how far what they do is known; none where nobody can type any. */
export function settingsAtCut({ setup, record }: Session, pass: Pass): Setup['settings'] {
  if (!CAN_TYPE.includes(setup.changeable)) return [];
  const proved = provedEffects(setup.settings, record.changes);
  return setup.settings.map((s) => {
    const seen = proved.find((p) => p.settingId === s.id);
    const value = pass.settingsAtCut[s.id] ?? s.value;
    return seen ? { ...s, value, effectU: effectUOf(seen) } : { ...s, value };
  });
}

/** Settings of which nobody knows yet which way they go. */
export const unknownOf = (settings: Setup['settings']): Setup['settings'] =>
  settings.filter((s) => !s.directionKnown);

/** Whether the second set of the sheet can be cut on the same load with nothing changed, after registering again. */
export function mayRegisterAgain(session: Session): boolean {
  const { set, sheet } = currentPass(session);
  const { marks, secondSet } = sheet.geometry.spec;
  return session.kind === 'calibration' && marks !== null && set === 1 && secondSet;
}

/** What to type into them to learn it, from what stood there when the newest set was cut. */
export const pushesAtHand = (session: Session): Push[] =>
  pushesOf(unknownOf(settingsAtCut(session, currentPass(session))), session.setup.workArea);

/** What is typed: the figures that were worked out; what nobody knows the way of is pushed along with them. */
export const figuresFor = (
  session: Session,
  how: CorrectionWay,
  changes: readonly SettingChange[],
): readonly Push[] =>
  how === 'push' ? [...changes.filter((c) => c.from !== c.to), ...pushesAtHand(session)] : changes;

const CAN_TYPE: readonly Changeable[] = ['settings-and-file', 'settings'];
const CAN_FILE: readonly Changeable[] = ['settings-and-file', 'file'];

/** What can carry this correction on this rig, the best first; empty: live with it. */
export function waysOf(
  setup: Setup,
  plan: Pick<CorrectionPlan, 'restWorthwhile'> & {
    readonly settings: Pick<CorrectionPlan['settings'], 'changes'>;
  },
): CorrectionWay[] {
  if (setup.changeable === 'machine-page') return ['machine-page'];
  // Nobody knows which way a figure goes: no bare sign is told, it is pushed once first.
  if (CAN_TYPE.includes(setup.changeable) && unknownOf(setup.settings).length > 0)
    return ['push', ...(CAN_FILE.includes(setup.changeable) ? (['file'] as const) : [])];
  const type = CAN_TYPE.includes(setup.changeable) && plan.settings.changes.some((c) => c.from !== c.to);
  const file = CAN_FILE.includes(setup.changeable);
  const both = type && file && plan.restWorthwhile;
  return [
    ...(both ? (['both'] as const) : []),
    ...(type ? (['settings'] as const) : []),
    ...(file ? (['file'] as const) : []),
  ];
}
