import { format, formatDistance } from 'date-fns';

import { toType, type Changeable } from '@/core/setup';
import { fixed, lengthFigure, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import type { PlumbState } from '@/core/verdict';
import type { BenchSetup, ClosedSession, SetupEvent } from '@/server/setups/bench';
import type { RunRow } from '@/server/runs/listRuns';
import type { CorrectionWay } from '@/server/sessions/session';
import { EVENT_WORDS } from '@/ui/eventWords';
import { sizeWords } from '@/ui/sizeWords';

export interface SetupCardView {
  readonly id: string;
  readonly name: string;
  readonly media: string;
  readonly size: string;
  /** Its figures have to be typed before it runs. */
  readonly changeOver: boolean;
  readonly state: PlumbState | null;
  readonly ratio: number | null;
  readonly r95: string | null;
  readonly allowed: string;
  readonly glyphLabel: string;
  readonly lines: readonly string[];
}

/** A rig, what its machine shows, and the setups on it. */
export interface RigGroupView {
  readonly id: string;
  readonly name: string;
  /** “Offset X 0.85, Offset Y 0.20”; empty where it takes no figures or keeps them by medium. */
  readonly shows: string;
  readonly cards: readonly SetupCardView[];
}

export interface TaskView {
  readonly key: string;
  readonly words: string;
  readonly rigName: string;
  readonly setupId: string;
  /** Where to go on: an open session, a run, a change-over; else something to start. */
  readonly href: string | null;
  readonly start: 'calibration' | 'quick-check' | null;
}

export interface BenchView {
  readonly answer: string;
  readonly groups: readonly RigGroupView[];
  readonly tasks: readonly TaskView[];
  /** The rig whose record is most worth looking at. */
  readonly chartSetupId: string | null;
}

/** What the bench says and shows. */
export function benchView(
  setups: readonly BenchSetup[],
  unit: LengthUnit,
  now: Date,
  runs: readonly RunRow[] = [],
): BenchView {
  return {
    answer: answer(setups),
    groups: groupsOf(setups, unit, now),
    tasks: [...runs.flatMap((r) => runTask(r)), ...setups.flatMap((r) => tasks(r))],
    chartSetupId:
      setups.reduce<BenchSetup | null>(
        (worst, r) =>
          r.history.length > 1 && (worst === null || r.history.length > worst.history.length) ? r : worst,
        null,
      )?.setup.id ?? null,
  };
}

function groupsOf(setups: readonly BenchSetup[], unit: LengthUnit, now: Date): RigGroupView[] {
  const groups = new Map<string, BenchSetup[]>();
  for (const s of setups) {
    const own = groups.get(s.setup.rigId);
    if (own) own.push(s);
    else groups.set(s.setup.rigId, [s]);
  }
  return [...groups.values()].map((own) => {
    const { setup } = own[0]!;
    return {
      id: setup.rigId,
      name: setup.name,
      shows: setup.settings
        .filter((s) => s.kept === 'one')
        .map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))}`)
        .join(', '),
      cards: own.map((r) => card(r, unit, now)),
    };
  });
}

const latest = (r: BenchSetup) => r.history.at(-1) ?? null;

/** Events since the last measurement, which no measurement has seen yet. */
function unseen(r: BenchSetup): SetupEvent[] {
  const last = latest(r);
  return r.events.filter((e) => last === null || e.at > last.at);
}

function card(r: BenchSetup, unit: LengthUnit, now: Date): SetupCardView {
  const last = latest(r);
  const event = unseen(r).at(-1);
  // What was measured before a correction is no figure of the rig after it.
  const known = r.unproved ? null : last;
  const r95 = known ? lengthFigure(known.r95Mm, unit) : null;
  const ago = (at: Date): string => formatDistance(at, now, { addSuffix: true });
  return {
    id: r.setup.id,
    name: r.setup.name,
    media: r.setup.label ? `${r.setup.media}, ${r.setup.label}` : r.setup.media,
    changeOver: toType(r.setup.settings).length > 0,
    size: sizeWords(r.setup, unit),
    state: known?.state ?? null,
    ratio: known ? known.r95Mm / r.setup.toleranceMm : null,
    r95,
    allowed: lengthFigure(r.setup.toleranceMm, unit),
    glyphLabel: known
      ? `Plumb line of ${r.setup.name}: ${lengthText(known.r95Mm, unit)} of ${lengthText(r.setup.toleranceMm, unit)} allowed`
      : `Plumb line of ${r.setup.name}: not ${r.unproved ? 'proved' : 'measured'} yet`,
    lines: [
      ...(r.unproved ? [`${UNPROVED_WORDS[r.unproved.done]} ${ago(r.unproved.at)}, not proved yet`] : []),
      last ? `${lastWord(last)} ${ago(last.at)}` : 'never measured',
      ...(toType(r.setup.settings).length > 0 ? ['the machine shows other figures: change over first'] : []),
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
      setupId: r.setupId,
      href: `/jobs/${r.id}`,
      start: null,
    },
  ];
}

function tasks(r: BenchSetup): TaskView[] {
  const base = { rigName: `${r.setup.name}, ${r.setup.media}`, setupId: r.setup.id };
  const found: TaskView[] = r.open.map((s) => ({
    ...base,
    key: s.id,
    words: openWords(s, r.setup.changeable),
    href: `/calibrate/${s.id}`,
    start: null,
  }));
  if (found.length > 0) return found;
  const last = latest(r);
  // Nothing is measured while the machine shows another medium’s figures.
  const change = toType(r.setup.settings).length > 0;
  const start = (words: string, kind: 'calibration' | 'quick-check'): TaskView[] => [
    change
      ? {
          ...base,
          key: `${r.setup.id}-${kind}`,
          words: `Change over, then: ${words}`,
          href: `/setups/${r.setup.id}/change-over`,
          start: null,
        }
      : { ...base, key: `${r.setup.id}-${kind}`, words, href: null, start: kind },
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

function answer(setups: readonly BenchSetup[]): string {
  if (setups.length === 0) return 'Add the first rig: one printer, one cutter, and the media they work on.';
  const named = (state: PlumbState | null): string[] =>
    setups
      .filter((r) => r.unproved === null && (latest(r)?.state ?? null) === state)
      .map((r) => r.setup.name);
  const out = named('out-of-plumb');
  const leaning = named('leaning');
  const open = setups.filter((r) => r.open.some((s) => s.stage !== 'print'));
  if (out.length > 0)
    return `${list(out)} ${out.length > 1 ? 'are' : 'is'} out of plumb: calibrate before anything is run there.`;
  if (leaning.length > 0)
    return `${list(leaning)} ${leaning.length > 1 ? 'are' : 'is'} leaning: calibrate before the next tight job.`;
  if (open.length > 0)
    return `A sheet of ${list(open.map((r) => r.setup.name))} is half done: go on where you left it.`;
  const unproved = setups.filter((r) => r.unproved !== null).map((r) => r.setup.name);
  if (unproved.length > 0)
    return `${list(unproved)} ${unproved.length > 1 ? 'were' : 'was'} corrected and not proved yet: a quick check tells.`;
  const unknown = named(null);
  if (unknown.length > 0)
    return `${list(unknown)} ${unknown.length > 1 ? 'have' : 'has'} not been measured yet: print a proof sheet.`;
  return 'Every rig is plumb.';
}

const list = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
