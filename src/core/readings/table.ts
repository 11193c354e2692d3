import { z } from 'zod';

import { askedBy, keptBy, readingsOf, type Way, about } from './way';
import Papa from 'papaparse';

import { accept, refuse, type Outcome } from '../outcome';
import { toMm, type LengthUnit } from '../units';

import { stationOf, type ReadingDoubt, type SchoolReadings, type StationReading } from './station';

/* A table of readings, pasted from a spreadsheet or read from CSV. */

export const TABLE_COLUMNS = ['x', 'y', 'dx', 'dy', 'u', 'id'] as const;
export type TableColumn = (typeof TABLE_COLUMNS)[number];
/** Which heading holds what. */
export type TableColumns = Readonly<Partial<Record<TableColumn, string>>>;

export type TableRefusal =
  | { readonly code: 'no-table' }
  | { readonly code: 'too-many-rows'; readonly limit: number }
  | { readonly code: 'no-column'; readonly column: TableColumn; readonly headings: readonly string[] };

const MOST_ROWS = 20_000;
/** Headings that are known without being told, in small letters without units. */
const KNOWN: Readonly<Record<TableColumn, readonly string[]>> = {
  x: ['x', 'across', 'x position', 'pos x'],
  y: ['y', 'along', 'y position', 'pos y'],
  dx: ['dx', 'offset across', 'offset x', 'dev x', 'δx'],
  dy: ['dy', 'offset along', 'offset y', 'dev y', 'δy'],
  u: ['u', 'uncertainty', 'sd'],
  id: ['id', 'station', 'name', 'no', 'nr'],
};

/**
 * Stations from a table with a row of headings. Commas, semicolons and tabs part the columns; figures may have a decimal
 * comma where commas do not part. Headings may carry their unit, as in “dx (mm)” or “x [in]”; else `unit` holds.
 *
 * Without a column of uncertainties u is that of the figures' own last place, r/√12 (JCGM 100:2008 F.2.2.1).
 * Refuses  no-table, too-many-rows, no-column; rows that cannot be read are left out and named among the doubts.
 */
export function readTable(
  csv: string,
  columns: TableColumns,
  unit: LengthUnit,
): Outcome<SchoolReadings, TableRefusal> {
  const parsed = Papa.parse<string[]>(csv.trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ';', ',', '|'],
    preview: MOST_ROWS + 2,
  });
  const [headings, ...rows] = parsed.data.map((row) => row.map((cell) => cell.trim()));
  if (!headings || headings.length < 2 || rows.length === 0) return refuse({ code: 'no-table' });
  if (rows.length > MOST_ROWS) return refuse({ code: 'too-many-rows', limit: MOST_ROWS });
  const at: Partial<Record<TableColumn, number>> = {};
  for (const column of TABLE_COLUMNS) {
    const found = columnAt(headings, column, columns[column]);
    if (found >= 0) at[column] = found;
    else if (columns[column] !== undefined || column === 'x' || column === 'y')
      return refuse({ code: 'no-column', column, headings });
  }
  if (at.dx === undefined && at.dy === undefined)
    return refuse({ code: 'no-column', column: 'dx', headings });
  return accept(stationsOf(headings, rows, at, unit));
}

function columnAt(headings: readonly string[], column: TableColumn, named: string | undefined): number {
  if (named !== undefined) return headings.findIndex((h) => h === named.trim());
  return headings.findIndex((h) => KNOWN[column].includes(plain(h)));
}

const UNIT_IN_HEADING = /[([]\s*(mm|in|inch|inches|")\s*[)\]]|[,_ ](mm|in)$/i;

const plain = (heading: string): string =>
  heading.replace(UNIT_IN_HEADING, '').replace(/_/g, ' ').trim().toLowerCase();

const unitOf = (heading: string, otherwise: LengthUnit): LengthUnit => {
  const [, bracketed, ending] = UNIT_IN_HEADING.exec(heading) ?? [];
  const word = (bracketed ?? ending)?.toLowerCase();
  return word === undefined ? otherwise : word === 'mm' ? 'mm' : 'in';
};

function stationsOf(
  headings: readonly string[],
  rows: readonly (readonly string[])[],
  at: Readonly<Partial<Record<TableColumn, number>>>,
  unit: LengthUnit,
): SchoolReadings {
  const doubts: ReadingDoubt[] = [];
  const seen = new Set<string>();
  const cellOf = (row: readonly string[], column: TableColumn): string =>
    at[column] === undefined ? '' : (row[at[column]] ?? '');
  const mmOf = (text: string, column: TableColumn): number =>
    toMm(figure(text), unitOf(headings[at[column]!]!, unit));
  const lastPlaces = { dx: leastPlace(rows, at.dx), dy: leastPlace(rows, at.dy) };
  const stations = rows.flatMap((row, i): StationReading[] => {
    const id = freeName(cellOf(row, 'id') || String(i + 1), seen);
    const [x, y] = [mmOf(cellOf(row, 'x'), 'x'), mmOf(cellOf(row, 'y'), 'y')];
    const typedU = cellOf(row, 'u');
    const given = typedU === '' ? null : mmOf(typedU, 'u');
    const axis = (column: 'dx' | 'dy') => {
      const text = cellOf(row, column);
      if (text === '') return null;
      const own = toMm(lastPlaces[column], unitOf(headings[at[column]!]!, unit)) / Math.sqrt(12);
      return { mm: mmOf(text, column), u: given ?? own };
    };
    const [across, along] = [axis('dx'), axis('dy')];
    const figures = [x, y, across?.mm ?? 0, along?.mm ?? 0, across?.u ?? 1, along?.u ?? 1];
    const wrong = figures.some((v) => !Number.isFinite(v) || Math.abs(v) > 1e6);
    if (wrong || (given !== null && !(given > 0))) {
      doubts.push({
        station: id,
        code: 'unreadable-row',
        message: `Row ${i + 2} was left out: “${row.join('; ')}” is not all figures${given !== null && !(given > 0) ? ' with an uncertainty above 0' : ''}.`,
      });
      return [];
    }
    const station = stationOf({ id, x, y }, across, along);
    if (station) return [station];
    doubts.push({ station: id, code: 'nothing-read', message: `Row ${i + 2} holds no offset.` });
    return [];
  });
  return { stations, doubts };
}

/** A figure with point or comma, with a true minus or a hyphen; else NaN. */
function figure(text: string): number {
  const plainText = text
    .replace(/\u2212/g, '-')
    .replace(/^([-+]?\d+),(\d+)$/, '$1.$2')
    .trim();
  return /^[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d+)?$/i.test(plainText) ? Number(plainText) : Number.NaN;
}

/** The finest last place that a column is written to: 0.05 is written to a hundredth. */
function leastPlace(rows: readonly (readonly string[])[], at: number | undefined): number {
  if (at === undefined) return 1;
  const places = rows.map((row) => /[.,](\d+)$/.exec(row[at] ?? '')?.[1]?.length ?? 0);
  return 10 ** -Math.min(6, Math.max(0, ...places));
}

function freeName(wanted: string, seen: Set<string>): string {
  let name = wanted.slice(0, 60);
  for (let n = 2; seen.has(name); n += 1) name = `${wanted.slice(0, 60)}-${n}`;
  seen.add(name);
  return name;
}

/** What is wrong and what would be right. */
export function tableRefusalText(refusal: TableRefusal): string {
  switch (refusal.code) {
    case 'no-table':
      return 'This is no table: a row of headings, then a row for each station.';
    case 'too-many-rows':
      return `At most ${refusal.limit} rows.`;
    case 'no-column':
      return `No column holds ${refusal.column}. The headings are ${refusal.headings
        .map((h) => `“${h}”`)
        .join(', ')
        .slice(0, 300)}: say which is which.`;
    default:
      return refusal satisfies never;
  }
}

/** A micrometre’s thousandth: sums in binary carry dust beyond it. */
const PLACES = 6;

/** An offset of one axis at a place, as it goes into a table. */
export interface ReadOffset {
  readonly stationId: string;
  readonly axis: 'across' | 'along';
  readonly xMm: number;
  readonly yMm: number;
  readonly offsetMm: number;
  readonly uMm: number;
}

/** Rows of a table that `readTable` takes as it is, headings first; mm. Axes read at different places are rows of their own. */
export function tableRows(readings: readonly ReadOffset[]): (readonly (string | number | null)[])[] {
  const places = new Map<string, ReadOffset[]>();
  for (const r of readings) {
    const key = `${r.stationId}|${r.xMm}|${r.yMm}`;
    places.set(key, [...(places.get(key) ?? []), r]);
  }
  const figure = (mm: number): number => Number(mm.toFixed(PLACES));
  const offset = (list: readonly ReadOffset[], axis: ReadOffset['axis']): number | null => {
    const read = list.find((r) => r.axis === axis);
    return read ? figure(read.offsetMm) : null;
  };
  return [
    ['id', 'x (mm)', 'y (mm)', 'dx (mm)', 'dy (mm)', 'u (mm)'],
    ...[...places.values()].map((list) => {
      const { stationId, xMm, yMm } = list[0]!;
      return [
        ...[stationId, figure(xMm), figure(yMm)],
        ...[offset(list, 'across'), offset(list, 'along')],
        figure(Math.max(...list.map((r) => r.uMm))),
      ];
    }),
  ];
}

const PREFIX = 'T';
const column = z.string().min(1).max(200).optional();

/** A pasted table; a row of the same name replaces what came before under it. */
export const tableWay = {
  name: 'table',
  words: 'table',
  kept: keptBy({
    input: z.object({
      csv: z.string().max(200_000, 'At most 200 kB; longer tables go to the address for scripts.'),
      unit: z.enum(['mm', 'in']),
    }),
    tell: ({ csv, unit }) => {
      const table = readTable(csv, {}, unit);
      if (!table.ok)
        return refuse({ code: 'invalid-input', fields: { csv: tableRefusalText(table.refusal) } });
      const read = table.value.stations.flatMap((s) =>
        readingsOf({ ...s, id: `${PREFIX}-${s.id}` }, () => ({ school: 'table' as const })),
      );
      return accept({ read, doubts: table.value.doubts, instead: read.map((r) => r.stationId) });
    },
    seen: z.object({ school: z.literal('table') }),
    /** What came with a table is taken as normal. */
    interval: (offsetMm, uMm) => about(offsetMm, 0, uMm),
  }),
  script: askedBy({
    summary: 'Stations from a table',
    result: 'Stations for /api/fit, and the rows that were left out.',
    request: z.object({
      csv: z
        .string('“csv” is the table as text.')
        .min(1, '“csv” is empty.')
        .max(6_000_000, '“csv” is at most 6 MB.'),
      columns: z
        .strictObject(
          { x: column, y: column, dx: column, dy: column, u: column, id: column },
          '“columns” names x, y, dx, dy, u or id.',
        )
        .default({}),
      unit: z.enum(['mm', 'in'], '“unit” is “mm” or “in”.').default('mm'),
    }),
    answer: ({ csv, columns, unit }) => {
      const read = readTable(csv, columns, unit);
      if (read.ok) return read;
      const { code } = read.refusal;
      return refuse({ code, message: tableRefusalText(read.refusal), field: 'csv' });
    },
  }),
} as const satisfies Way;
