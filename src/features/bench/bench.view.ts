import { group } from 'd3';
import { formatDistance } from 'date-fns';

import { toType } from '@/core/setup';
import { fixed, lengthFigure, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import { setupState, type SetupState } from '@/core/verdict';
import type { BenchSetup } from '@/server/setups/bench';
import type { RunRow } from '@/server/runs/listRuns';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { sizeWords } from '@/ui/words/sizeWords';

import { benchAnswer, type AnswerPart } from './benchAnswer';
import {
  doubtOf,
  latest,
  NOTHING_EXPECTED,
  unseen,
  waiting,
  type TaskView,
  type Today,
} from '@/features/forms/acts/nextSteps';
import { actsOf, type ActView } from '@/features/forms/acts/setupActs';

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
  /** “6 days ago”; null when it was never measured. */
  readonly since: string | null;
  readonly glyphLabel: string;
  readonly lines: readonly string[];
  /** Its place among those that wait, down the page, from 1; null when nothing waits. */
  readonly number: number | null;
  readonly tasks: readonly TaskView[];
  readonly acts: readonly ActView[];
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
  /** What is quiet too, is not set up now, and is one of many. */
  readonly apart: readonly SetupRowView[];
}

export const SHOWN = ['all', 'needs-you', 'leaning', 'never-proved'] as const;
export type Shown = (typeof SHOWN)[number];

export interface BenchView {
  readonly answer: readonly AnswerPart[];
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
  const hung = hang(setups, tasks, today);
  const urgent = hung.flatMap((s) => {
    const task = tasks.find((t) => t.setupId === s.setup.id);
    return task ? [{ of: s, task }] : [];
  });
  const rows = hung.map((s) => {
    const place = urgent.findIndex((u) => u.of === s);
    return rowOf(s, tasks, place < 0 ? null : place + 1, unit, now, today.get(s.setup.id)?.r95Mm ?? null);
  });
  const of = (show: Shown): SetupRowView[] => rows.filter((r) => isShown(r, show));
  const wanted = of(filter.show).filter((r) => found(r, filter.find));
  return {
    answer: benchAnswer(setups, urgent),
    counts: {
      all: rows.length,
      'needs-you': of('needs-you').length,
      leaning: of('leaning').length,
      'never-proved': of('never-proved').length,
    },
    groups: groupsOf(hung, wanted, onIt, filter.find.trim() !== ''),
    tasks,
  };
}

const byRig = (setups: readonly BenchSetup[]): BenchSetup[][] => [
  ...group(setups, (s) => s.setup.rigId).values(),
];

/** Setups in the order of the page: by rig, what waits first, and of the others the least sure. */
function hang(setups: readonly BenchSetup[], tasks: readonly TaskView[], today: Today): BenchSetup[] {
  const waits = new Map(tasks.toReversed().map((t) => [t.setupId, tasks.indexOf(t)]));
  const sure = (s: BenchSetup): number => doubtOf(s, today) ?? Infinity;
  const first = (a: BenchSetup, b: BenchSetup): number =>
    (waits.get(a.setup.id) ?? Infinity) - (waits.get(b.setup.id) ?? Infinity) || sure(b) - sure(a) || 0;
  return byRig(setups.toSorted(first)).flat();
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
  [row.name, row.media, row.size, ...row.tasks.flatMap((t) => [t.act, t.why])].some((words) =>
    words.toLowerCase().includes(find.trim().toLowerCase()),
  );

function groupsOf(
  hung: readonly BenchSetup[],
  rows: readonly SetupRowView[],
  onIt: Readonly<Record<string, string>>,
  searched: boolean,
): RigGroupView[] {
  return byRig(hung).flatMap((own) => {
    const { setup } = own[0]!;
    const shown = rows.filter((r) => own.some((s) => s.setup.id === r.id));
    if (shown.length === 0) return [];
    // What was looked for is open, whether it waits for somebody or not.
    const open = searched ? shown : shown.filter((r) => r.number !== null);
    const quiet = shown.filter((r) => !open.includes(r));
    return [
      {
        id: setup.rigId,
        name: setup.name,
        about: setup.printer === setup.cutter ? setup.cutter : `${setup.printer}, ${setup.cutter}`,
        onIt:
          own.length > 1 ? (own.find((s) => s.setup.id === onIt[setup.rigId])?.setup.media ?? null) : null,
        shows: setup.settings
          .filter((s) => s.kept === 'one')
          .map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))}`)
          .join(', '),
        open,
        // What the machine is set up for has its acts; of many others each has its name and figure.
        quiet: quiet.filter((r) => !r.changeOver || quiet.length <= FEW),
        apart: quiet.filter((r) => r.changeOver && quiet.length > FEW),
      },
    ];
  });
}

/** Of so many quiet setups on a rig each has a row. */
const FEW = 3;

function rowOf(
  r: BenchSetup,
  tasks: readonly TaskView[],
  number: number | null,
  unit: LengthUnit,
  now: Date,
  todayMm: number | null,
): SetupRowView {
  const last = latest(r);
  const event = unseen(r).at(-1);
  const stands = setupState(r);
  const known = stands.state ? stands : null;
  const own = tasks.filter((t) => t.setupId === r.setup.id);
  const changeOver = toType(r.setup.settings).length > 0;
  const ago = (at: Date): string =>
    formatDistance(at, now, { addSuffix: true }).replace(/^(about|almost|over) /, '');
  const of = `Plumb line of ${r.setup.name}, ${r.setup.media}`;
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
    since: last ? ago(last.at) : null,
    lines: [
      ...(known && todayMm !== null && lengthFigure(todayMm, unit) !== lengthFigure(known.r95Mm, unit)
        ? [`today 95 of 100 within ${lengthText(todayMm, unit)}, by the log`]
        : []),
      // A task of an event says so itself.
      ...(event && !own.some((t) => t.kind === 'event')
        ? [`${EVENT_WORDS[event.kind]} ${ago(event.at)}`]
        : []),
    ],
    number,
    tasks: own,
    acts: actsOf(r, own, changeOver),
  };
}
