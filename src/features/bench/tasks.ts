import { idleDays } from '@/core/control';
import { toType, type Changeable, type CorrectionWay } from '@/core/setup';
import type { RunRow } from '@/server/runs/listRuns';
import type { BenchSetup, SetupEvent } from '@/server/setups/bench';
import { lengthText, type LengthUnit } from '@/core/units';
import { setupState } from '@/core/verdict';
import { dateText } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { signalsOf } from '@/ui/words/watchWords';

/* What waits for somebody on the bench, and what comes first. */

export interface TaskView {
  readonly key: string;
  readonly words: string;
  readonly rigName: string;
  readonly setupId: string;
  /** Where to go on: an open session, a run, a change-over; else something to start. */
  readonly href: string | null;
  readonly start: 'calibration' | 'quick-check' | null;
  readonly kind: TaskKind;
}

/** What is dealt with first. Nothing runs out of plumb; what is half done comes before what is only due. */
const FIRST = [
  ...(['out', 'open', 'run', 'unproved', 'signal'] as const),
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
  const left =
    r.stage === 'release'
      ? `Release ${r.label} ${r.name}`
      : r.done < r.sections
        ? `Section ${r.done + 1} of ${r.sections} of ${r.label} ${r.name}${r.stage === 'paused' ? ', which rests' : ''}`
        : `Close ${r.label} ${r.name}: all sections are cut`;
  return [
    {
      key: r.id,
      words: left,
      rigName: `${r.rig}, ${r.media}`,
      setupId: r.setupId,
      href: `/jobs/${r.id}`,
      start: null,
      kind: 'run',
    },
  ];
}

function tasksOf(r: BenchSetup, now: Date, unit: LengthUnit, todayMm: number | null): TaskView[] {
  const base = { rigName: `${r.setup.name}, ${r.setup.media}`, setupId: r.setup.id };
  const found: TaskView[] = r.open.map((s) => ({
    ...base,
    key: s.id,
    words: openWords(s, r.setup.changeable),
    href: `/calibrate/${s.id}`,
    start: null,
    kind: 'open',
  }));
  if (found.length > 0) return found;
  const last = latest(r);
  // Nothing is measured while the machine shows another medium’s figures.
  const change = toType(r.setup.settings).length > 0;
  const start = (words: string, what: 'calibration' | 'quick-check', kind: TaskKind): TaskView[] => [
    change
      ? {
          ...base,
          key: `${r.setup.id}-${what}`,
          words: `Change over, then: ${words}`,
          href: `/setups/${r.setup.id}/change-over`,
          start: null,
          kind,
        }
      : { ...base, key: `${r.setup.id}-${what}`, words, href: null, start: what, kind },
  ];
  if (r.unproved)
    return start(
      `Quick check: ${UNPROVED_WORDS[r.unproved.done]}, not proved yet`,
      'quick-check',
      'unproved',
    );
  const { state } = setupState(r);
  if (!last) return start('First calibration', 'calibration', 'unknown');
  const [signal] = r.setup.checkAfter.signals ? signalsOf(r.watch, unit) : [];
  if (signal && state === 'plumb')
    return start(
      `Calibrate: its loads land ${signal.by} since ${dateText(signal.since, 'd MMMM')}`,
      'calibration',
      'signal',
    );
  const event = unseen(r).at(-1);
  if (event)
    return start(
      `Quick check: ${EVENT_WORDS[event.kind]} on ${dateText(event.at, 'd MMMM')}`,
      'quick-check',
      'event',
    );
  if (state !== 'plumb')
    return start(
      state === 'leaning' ? 'Calibrate before it is out' : 'Calibrate: do not run as it is',
      'calibration',
      state === 'leaning' ? 'leaning' : 'out',
    );
  if (todayMm !== null && todayMm > r.setup.toleranceMm && r.setup.checkAfter.signals)
    return start(
      `Quick check: since ${dateText(last.at, 'd MMMM')} it may have moved; 95 of 100 only within ${lengthText(todayMm, unit)} today`,
      'quick-check',
      'widened',
    );
  const idle = idleDays(r.setup.checkAfter, r.lastCut, now);
  if (idle !== null) return start(`Quick check: nothing was cut for ${idle} days`, 'quick-check', 'idle');
  return [];
}

/** What a sheet that was read asks for, by what can be changed on the rig. */
const TO_DO: Readonly<Record<Changeable, (label: string) => string>> = {
  'settings-and-file': (label) => `Correct what sheet ${label} found`,
  settings: (label) => `Type what sheet ${label} found`,
  file: (label) => `Correct the file by sheet ${label}`,
  'machine-page': (label) => `Run the machine’s own calibration, then prove it: sheet ${label}`,
  nothing: (label) => `See what sheet ${label} found`,
};

function openWords(s: BenchSetup['open'][number], changeable: Changeable): string {
  const label = String(s.sheetNumber).padStart(4, '0');
  const left = s.stations - s.stationsRead;
  switch (s.stage) {
    case 'print':
      return `Print and cut sheet ${label}`;
    case 'read':
      return left > 0
        ? `Finish reading sheet ${label}, ${left} of ${s.stations} stations left`
        : `See what sheet ${label} says`;
    case 'correct':
      return TO_DO[changeable](label);
    case 'prove':
      return `Prove it on sheet ${label}`;
    case 'closed':
      return `Sheet ${label}`;
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
