import { format, formatDistance } from 'date-fns';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import type { PlumbState } from '@/core/verdict';
import type { BenchRig, ClosedSession, RigEvent } from '@/server/rigs/bench';
import type { Changeable } from '@/server/rigs/shapes';
import type { RunRow } from '@/server/runs/listRuns';
import type { CorrectionWay } from '@/server/sessions/session';
import { EVENT_WORDS } from '@/ui/eventWords';

export interface RigCardView {
  readonly id: string;
  readonly name: string;
  readonly media: string;
  readonly state: PlumbState | null;
  readonly ratio: number | null;
  readonly r95: string | null;
  readonly allowed: string;
  readonly glyphLabel: string;
  readonly lines: readonly string[];
}

export interface TaskView {
  readonly key: string;
  readonly words: string;
  readonly rigName: string;
  readonly rigId: string;
  /** An open session to go on with; else something to start. */
  readonly sessionHref: string | null;
  readonly start: 'calibration' | 'quick-check' | null;
}

export interface BenchView {
  readonly answer: string;
  readonly cards: readonly RigCardView[];
  readonly tasks: readonly TaskView[];
  /** The rig whose record is most worth looking at. */
  readonly chartRigId: string | null;
}

/** What the bench says and shows. */
export function benchView(
  rigs: readonly BenchRig[],
  unit: LengthUnit,
  now: Date,
  runs: readonly RunRow[] = [],
): BenchView {
  const cards = rigs.map((r) => card(r, unit, now));
  return {
    answer: answer(rigs),
    cards,
    tasks: [...runs.flatMap((r) => runTask(r)), ...rigs.flatMap((r) => tasks(r))],
    chartRigId:
      rigs.reduce<BenchRig | null>(
        (worst, r) =>
          r.history.length > 1 && (worst === null || r.history.length > worst.history.length) ? r : worst,
        null,
      )?.rig.id ?? null,
  };
}

const latest = (r: BenchRig) => r.history.at(-1) ?? null;

/** Events since the last measurement, which no measurement has seen yet. */
function unseen(r: BenchRig): RigEvent[] {
  const last = latest(r);
  return r.events.filter((e) => last === null || e.at > last.at);
}

function card(r: BenchRig, unit: LengthUnit, now: Date): RigCardView {
  const last = latest(r);
  const event = unseen(r).at(-1);
  // What was measured before a correction is no figure of the rig after it.
  const known = r.unproved ? null : last;
  const r95 = known ? lengthFigure(known.r95Mm, unit) : null;
  const ago = (at: Date): string => formatDistance(at, now, { addSuffix: true });
  return {
    id: r.rig.id,
    name: r.rig.name,
    media: r.rig.media,
    state: known?.state ?? null,
    ratio: known ? known.r95Mm / r.rig.toleranceMm : null,
    r95,
    allowed: lengthFigure(r.rig.toleranceMm, unit),
    glyphLabel: known
      ? `Plumb line of ${r.rig.name}: ${lengthText(known.r95Mm, unit)} of ${lengthText(r.rig.toleranceMm, unit)} allowed`
      : `Plumb line of ${r.rig.name}: not ${r.unproved ? 'proved' : 'measured'} yet`,
    lines: [
      ...(r.unproved ? [`${UNPROVED_WORDS[r.unproved.done]} ${ago(r.unproved.at)}, not proved yet`] : []),
      last ? `${lastWord(last)} ${ago(last.at)}` : 'never measured',
      ...(event ? [`${EVENT_WORDS[event.kind]} ${ago(event.at)}`] : []),
    ],
  };
}

/** What was done without being proved. */
export const UNPROVED_WORDS: Readonly<Record<CorrectionWay, string>> = {
  settings: 'figures typed',
  both: 'figures typed and the file corrected',
  file: 'file corrected',
  'machine-page': 'the machine’s own calibration run',
};

const lastWord = ({ kind, proved }: ClosedSession): string =>
  kind === 'quick-check' ? 'checked' : proved ? 'proved' : 'measured';

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
      rigId: r.rigId,
      sessionHref: `/jobs/${r.id}`,
      start: null,
    },
  ];
}

function tasks(r: BenchRig): TaskView[] {
  const base = { rigName: `${r.rig.name}, ${r.rig.media}`, rigId: r.rig.id };
  const found: TaskView[] = r.open.map((s) => ({
    ...base,
    key: s.id,
    words: openWords(s, r.rig.changeable),
    sessionHref: `/calibrate/${s.id}`,
    start: null,
  }));
  if (found.length > 0) return found;
  const last = latest(r);
  const start = (words: string, kind: 'calibration' | 'quick-check'): TaskView[] => [
    { ...base, key: `${r.rig.id}-${kind}`, words, sessionHref: null, start: kind },
  ];
  if (r.unproved)
    return start(`Quick check: ${UNPROVED_WORDS[r.unproved.done]}, not proved yet`, 'quick-check');
  if (!last) return start('First calibration', 'calibration');
  const event = unseen(r).at(-1);
  if (event)
    return start(`Quick check: ${EVENT_WORDS[event.kind]} on ${format(event.at, 'd MMMM')}`, 'quick-check');
  if (last.state !== 'plumb')
    return start(
      last.state === 'leaning' ? 'Calibrate before it is out' : 'Calibrate: do not run as it is',
      'calibration',
    );
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

function openWords(s: BenchRig['open'][number], changeable: Changeable): string {
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

function answer(rigs: readonly BenchRig[]): string {
  if (rigs.length === 0) return 'Add the first rig: one printer, one cutter, and the media they work on.';
  const named = (state: PlumbState | null): string[] =>
    rigs.filter((r) => r.unproved === null && (latest(r)?.state ?? null) === state).map((r) => r.rig.name);
  const out = named('out-of-plumb');
  const leaning = named('leaning');
  const open = rigs.filter((r) => r.open.some((s) => s.stage !== 'print'));
  if (out.length > 0)
    return `${list(out)} ${out.length > 1 ? 'are' : 'is'} out of plumb: calibrate before anything is run there.`;
  if (leaning.length > 0)
    return `${list(leaning)} ${leaning.length > 1 ? 'are' : 'is'} leaning: calibrate before the next tight job.`;
  if (open.length > 0)
    return `A sheet of ${list(open.map((r) => r.rig.name))} is half done: go on where you left it.`;
  const unproved = rigs.filter((r) => r.unproved !== null).map((r) => r.rig.name);
  if (unproved.length > 0)
    return `${list(unproved)} ${unproved.length > 1 ? 'were' : 'was'} corrected and not proved yet: a quick check tells.`;
  const unknown = named(null);
  if (unknown.length > 0)
    return `${list(unknown)} ${unknown.length > 1 ? 'have' : 'has'} not been measured yet: print a proof sheet.`;
  return 'Every rig is plumb.';
}

const list = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
