import { capital } from '@/core/units';
import { scaleUtc } from 'd3';

import {
  chartOfRecord,
  rigChartRefusalText,
  thinned,
  type ChartRecord,
  type LoadColumns,
  type RigChart,
  type RigChartKind,
} from '@/core/control';
import { TERM_NAMES, type TermName } from '@/core/fit';
import { TERM_WORDS } from '@/ui/words/termWords';

/** A load as it is drawn and tabled; mm, or without unit for all terms at once. */
export interface ChartPoint {
  /** Milliseconds since 1970. */
  readonly at: number;
  /** As the shop's calendar has it. */
  readonly day: string;
  /** The load itself; null for all terms at once. */
  readonly value: number | null;
  readonly statistic: number;
  readonly below: number | null;
  readonly centre: number;
  readonly lower: number | null;
  readonly upper: number | null;
  readonly range: number | null;
  readonly signal: boolean;
  readonly anew: LoadColumns['anew'][number];
}

export interface ChartsView {
  /** What the chart says, in a sentence. */
  readonly answer: string;
  /** Null where there is too little to draw. */
  readonly chart: {
    readonly points: readonly ChartPoint[];
    /** The whole record, thinner: for the strip that is brushed. */
    readonly whole: readonly { readonly at: number; readonly day: string; readonly mm: number }[];
    /** Days that are written below the chart. */
    readonly ticks: readonly { readonly at: number; readonly words: string }[];
    readonly rangeLimit: number | null;
    /** Loads in view, of which those drawn are some where they are many. */
    readonly loads: number;
    readonly signals: number;
  } | null;
}

/** So many parts of the width have points of their own. */
const PARTS = 300;
const PARTS_OF_STRIP = 120;

/** What was drawn of a record before: for as long as anybody has that record. */
const drawn = new WeakMap<ChartRecord, Map<string, ReturnType<typeof chartOfRecord>>>();

function drawnOf(record: ChartRecord, { chart, term }: Asked, toleranceMm: number) {
  const known = drawn.get(record) ?? new Map<string, ReturnType<typeof chartOfRecord>>();
  drawn.set(record, known);
  const key = `${chart} ${term} ${toleranceMm}`;
  const made = known.get(key) ?? chartOfRecord(record, chart, term, toleranceMm);
  known.set(key, made);
  return made;
}

interface Asked {
  readonly chart: RigChartKind;
  readonly term: TermName;
}

/** One chart of a record, between two moments. */
export function chartsView(
  record: ChartRecord,
  asked: Asked,
  view: { readonly from: number | null; readonly to: number | null },
  toleranceMm: number,
  dateText: (at: Date, letters: string) => string,
  events: readonly Happened[] = [],
): ChartsView {
  const made = drawnOf(record, asked, toleranceMm);
  if (!made.ok) return { answer: rigChartRefusalText(made.refusal), chart: null };
  const { chart, columns, terms } = made.value;
  const [from, to] = within(columns.at, view);
  const day = (at: Date): string => dateText(at, 'd MMM yyyy');
  const points = pointsOf(columns, chart, from, to, day);
  const signals = chart.signal.slice(from, to).filter(Boolean).length;
  return {
    answer: answerOf(columns, chart, terms, day, events),
    chart: {
      points,
      whole: thinned(columns.at, [stripOf(chart)], chart.signal, PARTS_OF_STRIP).map((i) => ({
        at: columns.at[i]!,
        day: dateText(new Date(columns.at[i]!), 'yyyy-MM-dd'),
        mm: stripOf(chart)[i]!,
      })),
      ticks: ticksOf(columns.at[from]!, columns.at[to - 1]!, dateText),
      rangeLimit: chart.rangeLimit,
      loads: to - from,
      signals,
    },
  };
}

const stripOf = (chart: RigChart): readonly number[] => chart.value ?? chart.statistic;

const DAY_MS = 86_400_000;

/** Days between two moments at which a chart is told by its date. */
function ticksOf(from: number, to: number, dateText: (at: Date, letters: string) => string) {
  const letters = to - from > 300 * DAY_MS ? 'MMM yyyy' : to - from > 2 * DAY_MS ? 'd MMM' : 'd MMM HH:mm';
  return scaleUtc([new Date(from), new Date(to)], [0, 1])
    .ticks(6)
    .map((at) => ({ at: +at, words: dateText(at, letters) }));
}

/** From which to which load is seen; everything where nothing lies between. */
function within(
  at: readonly number[],
  view: { readonly from: number | null; readonly to: number | null },
): [number, number] {
  const from = at.findIndex((t) => view.from === null || t >= view.from);
  const to = at.findLastIndex((t) => view.to === null || t <= view.to) + 1;
  return from < 0 || to <= from ? [0, at.length] : [from, to];
}

function pointsOf(
  columns: LoadColumns,
  chart: RigChart,
  from: number,
  to: number,
  day: (at: Date) => string,
): ChartPoint[] {
  const cut = <T>(list: readonly T[]): T[] => list.slice(from, to);
  const drawn = [chart.statistic, chart.value, chart.below, chart.range].flatMap((c) => (c ? [cut(c)] : []));
  const anew = cut(columns.anew);
  const kept = new Set(thinned(cut(columns.at), drawn, cut(chart.signal), PARTS));
  // A line breaks where something is new: that is never thinned away, as long as there are few of them.
  const breaks = anew.flatMap((a, i) => (a === null ? [] : [i]));
  if (breaks.length <= PARTS) for (const i of breaks) kept.add(i);
  return [...kept]
    .sort((a, b) => a - b)
    .map((k) => {
      const i = from + k;
      return {
        at: columns.at[i]!,
        day: day(new Date(columns.at[i]!)),
        value: chart.value?.[i] ?? null,
        statistic: chart.statistic[i]!,
        below: chart.below?.[i] ?? null,
        centre: chart.centre[i]!,
        lower: chart.lower[i]!,
        upper: chart.upper[i]!,
        range: chart.range?.[i] ?? null,
        signal: chart.signal[i]!,
        anew: columns.anew[i]!,
      };
    });
}

function answerOf(
  columns: LoadColumns,
  chart: RigChart,
  terms: readonly TermName[],
  day: (at: Date) => string,
  events: readonly Happened[],
): string {
  const what =
    terms.length === 1
      ? `${capital(TERM_WORDS[terms[0]!])} is`
      : terms.length === 2
        ? 'Both shifts together (too few loads told all six terms) are'
        : 'All six terms together are';
  const stands = columns.anew.findLastIndex((a) => a !== null);
  const first = chart.signal.indexOf(true, Math.max(0, stands));
  const since = (i: number): string => day(new Date(columns.at[i]!));
  if (first >= 0)
    return chart.signal.at(-1)!
      ? `${what} beyond what is usual since ${since(first)}.`
      : `${what} within what is usual again, after it was beyond on ${since(first)}.`;
  if (chart.upper.at(-1) === null)
    return `${anewWords(columns, stands, day, events)}: a few more loads tell what is usual now.`;
  return stands > 0
    ? `${what} as usual. ${anewWords(columns, stands, day, events)}.`
    : `${what} as usual in all of its ${columns.at.length} loads.`;
}

/** Something that happened to the rig, in words. */
interface Happened {
  readonly at: number;
  readonly words: string;
}

/** Why a chart begins anew where it does: “Since 9 Aug 2026, when software or firmware changed”. */
function anewWords(
  columns: LoadColumns,
  i: number,
  day: (at: Date) => string,
  events: readonly Happened[],
): string {
  const at = columns.at[i]!;
  if (columns.anew[i] === 'corrected') return `It was corrected before ${day(new Date(at))}`;
  const event = events.filter((e) => e.at <= at).sort((a, b) => b.at - a.at)[0];
  return event
    ? `${capital(event.words)} on ${day(new Date(event.at))}`
    : `Something happened to the rig before ${day(new Date(at))}`;
}

/** The term that speaks: of those whose running average is beyond what is usual now the farthest; else the shift across. */
export function termThatSignals(record: ChartRecord, toleranceMm: number): TermName {
  const over = TERM_NAMES.flatMap((term) => {
    const made = drawnOf(record, { chart: 'averages', term }, toleranceMm);
    if (!made.ok || !made.value.chart.signal.at(-1)) return [];
    const { statistic, centre, upper } = made.value.chart;
    const room = (upper.at(-1) ?? Infinity) - centre.at(-1)!;
    return [{ term, by: Math.abs(statistic.at(-1)! - centre.at(-1)!) / room }];
  });
  return over.sort((a, b) => b.by - a.by)[0]?.term ?? 'shiftXMm';
}

/** The charts in words. */
export const CHART_WORDS: Readonly<Record<RigChartKind, string>> = {
  loads: 'Each load',
  averages: 'Running average',
  sums: 'Adds up small drifts',
  'all-terms': 'All terms at once',
};

export const CHART_ABOUT: Readonly<Record<RigChartKind, string>> = {
  loads:
    'Each load by itself, and below it how far it lies from the one before: a sudden jump shows at once (individuals and moving range).',
  averages: 'Newer loads count more than older ones: a small lasting change shows within a few loads.',
  sums: 'What lies beyond scatter is added up, upwards and downwards: a slow creep shows soonest.',
  'all-terms':
    'All six terms in one figure: how far their running averages together are from where they should be. One limit for the rig as a whole (Hotelling’s T² of the averages).',
};
