import { formatDistance } from 'date-fns';

import { toType } from '@/core/setup';
import { fixed, lengthFigure, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import { setupState, type SetupState } from '@/core/verdict';
import type { BenchSetup, ClosedSession } from '@/server/setups/bench';
import type { RunRow } from '@/server/runs/listRuns';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { sizeWords } from '@/ui/words/sizeWords';

import {
  doubtOf,
  latest,
  NOTHING_EXPECTED,
  UNPROVED_WORDS,
  unseen,
  waiting,
  type TaskView,
  type Today,
} from './tasks';

/** One setup: what is known of it, and what it waits for. */
export interface SetupRowView {
  readonly id: string;
  readonly name: string;
  readonly media: string;
  readonly size: string;
  /** Its figures have to be typed before it runs. */
  readonly changeOver: boolean;
  readonly stands: SetupState;
  readonly r95: string | null;
  readonly allowed: string;
  readonly glyphLabel: string;
  readonly lines: readonly string[];
  /** Its place in the order of urgency over the whole bench, from 1; null when nothing waits. */
  readonly number: number | null;
  readonly tasks: readonly TaskView[];
  /** A calibration of it is open: it is gone on with, not started. */
  readonly calibrating: boolean;
  /** Something was measured, so that a quick check says something. */
  readonly checkable: boolean;
}

/** A rig, what its machine shows, and the setups on it. */
export interface RigGroupView {
  readonly id: string;
  readonly name: string;
  readonly about: string;
  /** What it was changed over to last; null when nobody said. */
  readonly onIt: string | null;
  /** “Offset X 0.85, Offset Y 0.20”; empty where it takes no figures or keeps them by medium. */
  readonly shows: string;
  /** What needs somebody, the most urgent first. */
  readonly open: readonly SetupRowView[];
  /** What is quiet. */
  readonly quiet: readonly SetupRowView[];
}

export const SHOWN = ['all', 'needs-you', 'leaning', 'never-proved'] as const;
export type Shown = (typeof SHOWN)[number];

export interface BenchView {
  readonly answer: string;
  readonly counts: Readonly<Record<Shown, number>>;
  readonly groups: readonly RigGroupView[];
  /** Everything that waits, in the order of its urgency. */
  readonly tasks: readonly TaskView[];
}

export interface BenchFilter {
  readonly show: Shown;
  /** Part of a rig’s, a medium’s or a job’s name. */
  readonly find: string;
}

const EVERYTHING: BenchFilter = { show: 'all', find: '' };

/** What the bench says and shows. */
export function benchView(
  setups: readonly BenchSetup[],
  unit: LengthUnit,
  now: Date,
  runs: readonly RunRow[] = [],
  onIt: Readonly<Record<string, string>> = {},
  filter: BenchFilter = EVERYTHING,
  today: Today = NOTHING_EXPECTED,
): BenchView {
  // A run that was left open on a setup that is off the bench has no row here.
  const here = runs.filter((r) => setups.some((s) => s.setup.id === r.setupId));
  const tasks = waiting(setups, here, now, unit, today);
  const order = [...new Set(tasks.map((t) => t.setupId))];
  // The least sure first, as far as nothing else orders them.
  const sure = new Map(setups.map((s) => [s.setup.id, doubtOf(s, today) ?? Infinity]));
  const rows = setups
    .map((s) => rowOf(s, tasks, order, unit, now, today.get(s.setup.id)?.r95Mm ?? null))
    .toSorted((a, b) => sure.get(b.id)! - sure.get(a.id)! || 0);
  const of = (show: Shown): SetupRowView[] => rows.filter((r) => isShown(r, show));
  const wanted = of(filter.show).filter((r) => found(r, filter.find));
  return {
    answer: capital(answer(setups, tasks)),
    counts: {
      all: rows.length,
      'needs-you': of('needs-you').length,
      leaning: of('leaning').length,
      'never-proved': of('never-proved').length,
    },
    groups: groupsOf(setups, wanted, onIt, filter.find.trim() !== ''),
    tasks,
  };
}

function isShown(row: SetupRowView, show: Shown): boolean {
  switch (show) {
    case 'all':
      return true;
    case 'needs-you':
      return row.number !== null;
    case 'leaning':
      return row.stands.state === 'leaning' || row.stands.state === 'out-of-plumb';
    case 'never-proved':
      return row.stands.state === null;
    default:
      return show satisfies never;
  }
}

const found = (row: SetupRowView, find: string): boolean =>
  [row.name, row.media, row.size, ...row.tasks.map((t) => t.words)].some((words) =>
    words.toLowerCase().includes(find.trim().toLowerCase()),
  );

function groupsOf(
  setups: readonly BenchSetup[],
  rows: readonly SetupRowView[],
  onIt: Readonly<Record<string, string>>,
  searched: boolean,
): RigGroupView[] {
  const byRig = new Map<string, BenchSetup[]>();
  for (const s of setups) {
    const own = byRig.get(s.setup.rigId);
    if (own) own.push(s);
    else byRig.set(s.setup.rigId, [s]);
  }
  // The rig that needs somebody first stands first; of the others the least sure.
  const place = (own: readonly BenchSetup[]): number =>
    rows.findIndex((r) => own.some((s) => s.setup.id === r.id));
  const urgent = (own: readonly BenchSetup[]): number =>
    Math.min(
      ...rows.filter((r) => own.some((s) => s.setup.id === r.id)).map((r) => r.number ?? rows.length + 1),
    );
  const rigs = [...byRig.values()].toSorted((a, b) => urgent(a) - urgent(b) || place(a) - place(b));
  return rigs.flatMap((own) => {
    const { setup } = own[0]!;
    const shown = rows.filter((r) => own.some((s) => s.setup.id === r.id));
    if (shown.length === 0) return [];
    // What was looked for is open, whether it waits for somebody or not.
    const open = searched ? shown : shown.filter((r) => r.number !== null);
    return [
      {
        id: setup.rigId,
        name: setup.name,
        about: setup.printer === setup.cutter ? setup.cutter : `${setup.printer}, ${setup.cutter}`,
        onIt: own.find((s) => s.setup.id === onIt[setup.rigId])?.setup.media ?? null,
        shows: setup.settings
          .filter((s) => s.kept === 'one')
          .map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))}`)
          .join(', '),
        open: open.toSorted((a, b) => (a.number ?? Infinity) - (b.number ?? Infinity)),
        quiet: shown.filter((r) => !open.includes(r)),
      },
    ];
  });
}

function rowOf(
  r: BenchSetup,
  tasks: readonly TaskView[],
  order: readonly string[],
  unit: LengthUnit,
  now: Date,
  todayMm: number | null,
): SetupRowView {
  const last = latest(r);
  const event = unseen(r).at(-1);
  const stands = setupState(r);
  const known = stands.state ? stands : null;
  const changeOver = toType(r.setup.settings).length > 0;
  const ago = (at: Date): string => formatDistance(at, now, { addSuffix: true });
  const of = `Plumb line of ${r.setup.name}, ${r.setup.media}`;
  const place = order.indexOf(r.setup.id);
  return {
    id: r.setup.id,
    name: r.setup.name,
    media: r.setup.label ? `${r.setup.media}, ${r.setup.label}` : r.setup.media,
    size: sizeWords(r.setup, unit),
    changeOver,
    stands,
    r95: known ? lengthFigure(known.r95Mm, unit) : null,
    allowed: lengthFigure(r.setup.toleranceMm, unit),
    glyphLabel: known
      ? `${of}: ${lengthText(known.r95Mm, unit)} of ${lengthText(r.setup.toleranceMm, unit)} allowed`
      : `${of}: ${stands.unknown}`,
    lines: [
      ...(r.unproved ? [`${UNPROVED_WORDS[r.unproved.done]} ${ago(r.unproved.at)}, not proved yet`] : []),
      last ? `${lastWord(last)} ${ago(last.at)}` : 'never measured',
      ...(known && todayMm !== null && lengthFigure(todayMm, unit) !== lengthFigure(known.r95Mm, unit)
        ? [`today 95 of 100 within ${lengthText(todayMm, unit)}, by the log`]
        : []),
      ...(known && last?.loads === 'assumed' ? ['spread from sheet to sheet: not measured yet'] : []),
      ...(changeOver ? ['another medium’s figures are in the machine: change over first'] : []),
      ...(event ? [`${EVENT_WORDS[event.kind]} ${ago(event.at)}`] : []),
    ],
    number: place < 0 ? null : place + 1,
    tasks: tasks.filter((t) => t.setupId === r.setup.id),
    calibrating: r.open.some((s) => s.kind === 'calibration'),
    checkable: known !== null || r.unproved !== null,
  };
}

const lastWord = ({ kind, proved }: ClosedSession): string =>
  kind === 'quick-check' ? 'checked' : proved ? 'proved' : 'measured';

/** A rig by its name; where several media are on it, the medium too. */
const nameOf = (s: BenchSetup, all: readonly BenchSetup[]): string =>
  all.some((o) => o !== s && o.setup.rigId === s.setup.rigId)
    ? `${s.setup.media} on ${s.setup.name}`
    : s.setup.name;

/** The one next step of the bench, in a sentence: it is number 1, and its button is the red one. */
function answer(setups: readonly BenchSetup[], tasks: readonly TaskView[]): string {
  const [first] = tasks;
  if (setups.length === 0) return 'Add the first rig: one printer, one cutter, and the media they work on.';
  if (!first) return setups.length === 1 ? 'It is plumb.' : 'Every setup is plumb.';
  const named = (task: TaskView): string =>
    nameOf(
      setups.find((s) => s.setup.id === task.setupId)!,
      setups,
    );
  const alike = tasks.filter((t) => t.kind === first.kind).map(named);
  const one = alike.length === 1;
  const next = `${named(first)}: ${first.words.charAt(0).toLowerCase()}${first.words.slice(1)}.`;
  // The machine shows other figures: that comes before whatever it waits for.
  if (first.start === null) return next;
  switch (first.kind) {
    case 'out':
      return `${list(alike)} ${one ? 'is' : 'are'} out of plumb: calibrate before anything is run there.`;
    case 'leaning':
      return `${list(alike)} ${one ? 'is' : 'are'} leaning: calibrate before the next tight job.`;
    case 'unproved':
      return `${list(alike)} ${one ? 'was' : 'were'} corrected and not proved yet: a quick check tells.`;
    case 'unknown':
      return `${list(alike)} ${one ? 'has' : 'have'} not been measured yet: print a proof sheet.`;
    default:
      return next;
  }
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const list = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
