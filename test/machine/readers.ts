import { inflateSync } from 'node:zlib';

/*
 * How a machine that we did not make reads what it is sent: straight lines in mm from the page's lower left corner. Shares
 * nothing with the code that writes the files; curves are left out.
 */

export type Line = readonly [x0: number, y0: number, x1: number, y1: number];
export interface Label {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly sizeMm: number;
  readonly upright: boolean;
}

const numbers = (text: string): number[] =>
  text
    .replace(/[MLZ,]/gi, ' ')
    .split(' ')
    .filter((word) => word.trim() !== '')
    .map(Number);

const pageHeight = (svg: string): number => numbers(/viewBox="([^"]+)"/.exec(svg)![1]!)[3]!;

export function linesOfSvg(svg: string): Line[] {
  const height = pageHeight(svg);
  return [...svg.matchAll(/ d="([^"]+)"/g)].flatMap((m) => {
    const d = m[1]!;
    if (/[^MLZ\d\s.,e+-]/i.test(d)) return [];
    const v = numbers(d);
    return v.length === 4 ? [[v[0]!, height - v[1]!, v[2]!, height - v[3]!] as const] : [];
  });
}

export function labelsOfSvg(svg: string): Label[] {
  const height = pageHeight(svg);
  return [...svg.matchAll(/<text ([^>]*)>([^<]*)</g)].map((m) => {
    const of = (name: string): number => Number(new RegExp(`(?:^| )${name}="([^"]+)"`).exec(m[1]!)![1]);
    return {
      text: m[2]!.replace('\u2212', '-'),
      x: of('x'),
      y: height - of('y'),
      sizeMm: of('font-size'),
      upright: !m[1]!.includes('rotate'),
    };
  });
}

/** Group codes of an R12 file, two lines each. */
export function linesOfDxf(dxf: string): Line[] {
  const rows = dxf.split(/\r?\n/);
  const pairs = Array.from({ length: Math.floor(rows.length / 2) }, (_, i) => ({
    code: Number(rows[2 * i]),
    value: rows[2 * i + 1]!.trim(),
  }));
  const lines: Line[] = [];
  let points: [number, number][] = [];
  let inside = '';
  for (const { code, value } of pairs) {
    if (code === 0) {
      if (value === 'SEQEND' && points.length === 2) lines.push([...points[0]!, ...points[1]!]);
      if (inside === 'LINE' && points.length === 2) lines.push([...points[0]!, ...points[1]!]);
      if (value === 'POLYLINE' || value === 'LINE') points = [];
      inside = value;
    } else if (inside === 'VERTEX' || inside === 'LINE') {
      if (code === 10 || code === 11) points.push([Number(value), 0]);
      if (code === 20 || code === 21) points.at(-1)![1] = Number(value);
    }
  }
  return lines;
}

/** Strokes, pen up to pen up, in units of a fortieth of a millimetre. */
export function strokesOfHpgl(hpgl: string): [number, number][][] {
  const strokes: [number, number][][] = [];
  let stroke: [number, number][] = [];
  const end = (): void => {
    if (stroke.length > 1) strokes.push(stroke);
  };
  for (const m of hpgl.matchAll(/(PU|PD|PA)([^;A-Z]*)/g)) {
    const v = numbers(m[2]!).map((n) => n / 40);
    const points = Array.from({ length: v.length / 2 }, (_, i): [number, number] => [
      v[2 * i]!,
      v[2 * i + 1]!,
    ]);
    if (m[1] === 'PU') {
      end();
      stroke = points.slice(-1);
    } else stroke.push(...points);
  }
  end();
  return strokes;
}

/** Those of them that are one straight line. */
export const linesOfHpgl = (hpgl: string): Line[] =>
  strokesOfHpgl(hpgl).flatMap((s): Line[] => (s.length === 2 ? [[...s[0]!, ...s[1]!]] : []));

type Matrix = readonly [number, number, number, number, number, number];
const times = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[1] * n[2],
  m[0] * n[1] + m[1] * n[3],
  m[2] * n[0] + m[3] * n[2],
  m[2] * n[1] + m[3] * n[3],
  m[4] * n[0] + m[5] * n[2] + n[4],
  m[4] * n[1] + m[5] * n[3] + n[5],
];

/** The page's content: path operators under their matrices (ISO 32000-1, 8.5), points of 1/72 inch. */
export function linesOfPdf(pdf: Buffer): Line[] {
  const text = pdf.toString('latin1');
  const from = text.indexOf('stream', text.indexOf('/FlateDecode')) + 'stream\n'.length;
  const content = inflateSync(pdf.subarray(from, text.indexOf('endstream', from))).toString('latin1');
  let matrix: Matrix = [1, 0, 0, 1, 0, 0];
  const kept: Matrix[] = [];
  const lines: Line[] = [];
  let path: [number, number][] = [];
  let curved = false;
  for (const row of content.split('\n')) {
    const words = row.trim().split(/\s+/);
    const operator = words.pop()!;
    const v = words.map(Number);
    const at = (x: number, y: number): [number, number] => [
      ((matrix[0] * x + matrix[2] * y + matrix[4]) * 25.4) / 72,
      ((matrix[1] * x + matrix[3] * y + matrix[5]) * 25.4) / 72,
    ];
    if (operator === 'q') kept.push(matrix);
    else if (operator === 'Q') matrix = kept.pop() ?? matrix;
    else if (operator === 'cm') matrix = times(v as unknown as Matrix, matrix);
    else if (operator === 'm') [path, curved] = [[at(v[0]!, v[1]!)], false];
    else if (operator === 'l') path.push(at(v[0]!, v[1]!));
    else if (operator === 'c') curved = true;
    else if (operator === 'S' && path.length === 2 && !curved) lines.push([...path[0]!, ...path[1]!]);
  }
  return lines;
}
