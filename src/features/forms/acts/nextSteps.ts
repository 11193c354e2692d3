import { idleDays } from '@/core/control';
import { toType, type Changeable, type CorrectionWay } from '@/core/setup';
import type { RunRow } from '@/server/runs/listRuns';
import type { BenchSetup, SetupEvent } from '@/server/setups/bench';
import { lengthText, type LengthUnit } from '@/core/units';
import { setupState } from '@/core/verdict';
import { dateText } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { signalsOf } from '@/ui/words/watchWords';

/*
 * What waits for somebody, and what comes first: one state and one next step of a setup, on every screen that speaks of it.
 */

export interface TaskView {
  readonly key: string;
  /** What to do, as it stands in the sentence and on the button: “Finish sheet 0147”. */
  readonly act: string;
  /** Why, or what is left of it: “5 of 9 stations left”. */
  readonly why: string;
  /** How much of it is done, where it has parts. */
  readonly parts: {
    readonly of: 'stations' | 'sections';
    readonly done: number;
    readonly all: number;
  } | null;
  readonly setupId: string;
  /** Where to go on: an open session, a run, a change-over; else something to start. */
  readonly href: string | null;
  readonly start: 'calibration' | 'quick-check' | null;
  readonly kind: TaskKind;
}

/** What is dealt with first. Nothing runs out of plumb; what is half done comes before what is only due. */
const FIRST = [
  ...(['out', 'open', 'run', 'planned', 'unproved', 'signal'] as const),
  ...(['event', 'leaning', 'widened', 'idle', 'unknown'] as const),
];
export type TaskKind = (typeof FIRST)[number];

/** What was done without being proved. */
export const UNPROVED_WORDS: Readonly<Record<CorrectionWay, string>> = {
  settings: 'figures typed',
  both: 'figures typed and the file corrected',
  file: 'file corrected',
  'machine-page': 'the machine’s own calibration run',
  push: 'pushed to see which way it goes',
};

export const latest = (r: BenchSetup) => r.history.at(-1) ?? null;

/** Events since the last measurement that the rig is to be checked after, which no measurement has seen yet. */
export function unseen(r: BenchSetup): SetupEvent[] {
  const last = latest(r);
  return r.events.filter(
    (e) => r.setup.checkAfter.events.includes(e.kind) && (last === null || e.at > last.at),
  );
}

/** A run that is open waits for its next section. */
function runTask(r: RunRow): TaskView[] {
  if (r.stage === 'closed') return [];
  const task = { key: r.id, setupId: r.setupId, href: `/jobs/${r.id}`, start: null, kind: 'run' } as const;
  const parts = { of: 'sections', done: r.done, all: r.sections } as const;
  if (r.stage === 'release')
    return [{ ...task, kind: 'planned', act: `Release ${r.label}`, why: `${r.name}, not cut yet`, parts }];
  if (r.done >= r.sections)
    return [{ ...task, act: `Close ${r.label}`, why: `${r.name}: all sections are cut`, parts }];
  const rests = r.stage === 'paused' ? ', which rests' : '';
  return [
    {
      ...task,
      act: `Go on with ${r.label}`,
      why: `${r.name}, section ${r.done + 1} of ${r.sections}${rests}`,
      parts,
    },
  ];
}

const STARTS = { calibration: 'Calibrate', 'quick-check': 'Quick check' } as const;

function tasksOf(r: BenchSetup, now: Date, unit: LengthUnit, todayMm: number | null): TaskView[] {
  const { setup } = r;
  const found: TaskView[] = r.open.map((s) => ({
    ...openTask(s, setup.changeable),
    key: s.id,
    setupId: setup.id,
    href: `/calibrate/${s.id}`,
    start: null,
    kind: 'open',
  }));
  if (found.length > 0) return found;
  const last = latest(r);
  // Nothing is measured while the machine shows another medium’s figures.
  const change = toType(setup.settings).length > 0;
  const start = (what: 'calibration' | 'quick-check', kind: TaskKind, why: string): TaskView[] => [
    {
      key: `${setup.id}-${what}`,
      setupId: setup.id,
      kind,
      parts: null,
      ...(change
        ? {
            act: 'Change over',
            why: `then ${STARTS[what].toLowerCase()}: ${why}`,
            href: `/setups/${setup.id}/change-over`,
            start: null,
          }
        : { act: STARTS[what], why, href: null, start: what }),
    },
  ];
  if (r.unproved)
    return start('quick-check', 'unproved', `${UNPROVED_WORDS[r.unproved.done]}, not proved yet`);
  const { state } = setupState(r);
  if (!last) return start('calibration', 'unknown', 'never measured');
  const [signal] = setup.checkAfter.signals ? signalsOf(r.watch, unit) : [];
  if (signal && state === 'plumb')
    return start('calibration', 'signal', `since ${dateText(signal.since, 'd MMMM')} it lands ${signal.by}`);
  const event = unseen(r).at(-1);
  if (event)
    return start('quick-check', 'event', `${EVENT_WORDS[event.kind]} on ${dateText(event.at, 'd MMMM')}`);
  if (state !== 'plumb')
    return state === 'leaning'
      ? start('calibration', 'leaning', 'before the next tight job')
      : start('calibration', 'out', 'do not run it as it is');
  if (todayMm !== null && todayMm > setup.toleranceMm && setup.checkAfter.signals)
    return start(
      'quick-check',
      'widened',
      `not measured since ${dateText(last.at, 'd MMMM')}, 95 of 100 only within ${lengthText(todayMm, unit)} today`,
    );
  const idle = idleDays(setup.checkAfter, r.lastCut, now);
  return idle === null ? [] : start('quick-check', 'idle', `nothing was cut for ${idle} days`);
}

/** What a sheet that was read asks for, by what can be changed on the rig. */
const TO_DO: Readonly<Record<Changeable, (label: string) => string>> = {
  'settings-and-file': (label) => `Correct what sheet ${label} found`,
  settings: (label) => `Type what sheet ${label} found`,
  file: (label) => `Correct the file by sheet ${label}`,
  'machine-page': () => 'Run the machine’s own calibration',
  nothing: (label) => `See what sheet ${label} found`,
};

function openTask(
  s: BenchSetup['open'][number],
  changeable: Changeable,
): Pick<TaskView, 'act' | 'why' | 'parts'> {
  const label = String(s.sheetNumber).padStart(4, '0');
  const parts = { of: 'stations', done: s.stationsRead, all: s.stations } as const;
  switch (s.stage) {
    case 'print':
      return { act: `Print sheet ${label}`, why: 'laid out, not cut yet', parts };
    case 'read':
      return s.stationsRead < s.stations
        ? {
            act: `Finish sheet ${label}`,
            why: `${s.stations - s.stationsRead} of ${s.stations} stations left`,
            parts,
          }
        : { act: `See sheet ${label}`, why: 'every station is read', parts };
    case 'correct':
      return { act: TO_DO[changeable](label), why: `sheet ${label} is read, nothing is done yet`, parts };
    case 'prove':
      return { act: `Prove it on sheet ${label}`, why: 'corrected, not proved yet', parts };
    case 'closed':
      return { act: `See sheet ${label}`, why: 'closed', parts };
    default:
      return s.stage satisfies never;
  }
}

/** Everything that waits, in the order of its urgency; what is surer of being within what is allowed comes later. */
export const waiting = (
  setups: readonly BenchSetup[],
  runs: readonly RunRow[],
  now: Date,
  unit: LengthUnit,
  today: Today = NOTHING_EXPECTED,
): TaskView[] => {
  const doubt = new Map(setups.map((r) => [r.setup.id, doubtOf(r, today) ?? 0]));
  return [
    ...runs.flatMap((r) => runTask(r)),
    ...setups.flatMap((r) => tasksOf(r, now, unit, today.get(r.setup.id)?.r95Mm ?? null)),
  ].toSorted(
    (a, b) =>
      FIRST.indexOf(a.kind) - FIRST.indexOf(b.kind) ||
      (doubt.get(b.setupId) ?? 0) - (doubt.get(a.setupId) ?? 0),
  );
};

/** What the log expects of each setup's next load today, by setup. */
export type Today = ReadonlyMap<string, { readonly r95Mm: number; readonly loads: number }>;
export const NOTHING_EXPECTED: Today = new Map();

/** How much of what is allowed 95 of 100 cuts take today, by the log, else as it was measured last; null when it was never. */
export function doubtOf(r: BenchSetup, today: Today): number | null {
  const mm = today.get(r.setup.id)?.r95Mm ?? (r.unproved ? undefined : latest(r)?.r95Mm);
  return mm === undefined ? null : mm / r.setup.toleranceMm;
}
