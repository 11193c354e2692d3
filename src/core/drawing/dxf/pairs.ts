import { accept, refuse, type Outcome } from '../../outcome';

/** One entity or table entry: its type and its group codes with their values, in order. */
export interface DxfRecord {
  readonly type: string;
  readonly codes: readonly number[];
  readonly values: readonly string[];
}

export type PairRefusal =
  | { readonly code: 'not-dxf'; readonly line: number; readonly found: string }
  | { readonly code: 'cut-short' };

/**
 * Splits ASCII DXF into records at every group code 0.
 * Refuses  not-dxf (a group code that is not a whole number, with its line), cut-short (no EOF).
 */
export function dxfRecords(text: string): Outcome<DxfRecord[], PairRefusal> {
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  const records: DxfRecord[] = [];
  let codes: number[] = [];
  let values: string[] = [];
  let ended = false;
  for (let i = 0; i + 1 < lines.length && !ended; i += 2) {
    const typed = lines[i]!.trim();
    const code = Number(typed);
    if (typed === '' || !Number.isInteger(code) || Math.abs(code) > 1071)
      return refuse({ code: 'not-dxf', line: i + 1, found: typed.slice(0, 30) });
    const value = lines[i + 1]!;
    if (code === 0) {
      codes = [];
      values = [];
      const type = value.trim().toUpperCase();
      records.push({ type, codes, values });
      ended = type === 'EOF';
    } else {
      codes.push(code);
      values.push(value);
    }
  }
  return ended ? accept(records) : refuse({ code: 'cut-short' });
}

/** The first value of a group code, or undefined. */
export function text(record: DxfRecord, code: number): string | undefined {
  const at = record.codes.indexOf(code);
  return at < 0 ? undefined : record.values[at]!.trim();
}

/** A figure that cannot be read, or is too large to mean anything; carried to the reader's edge. */
export class BadFigure extends Error {
  constructor(
    readonly entity: string,
    readonly group: number,
    readonly value: string,
  ) {
    super('bad-figure');
  }
}

const LARGEST = 1e9;

export function figure(record: DxfRecord, at: number): number {
  const typed = record.values[at]!.trim();
  const value = Number(typed);
  if (typed === '' || !Number.isFinite(value) || Math.abs(value) > LARGEST)
    throw new BadFigure(record.type, record.codes[at]!, typed.slice(0, 30));
  return value;
}

/** The first figure of a group code, or what it is when it is missing. */
export function number(record: DxfRecord, code: number, missing: number): number {
  const at = record.codes.indexOf(code);
  return at < 0 ? missing : figure(record, at);
}

/** All figures of a group code, in order. */
export function numbers(record: DxfRecord, code: number): number[] {
  return record.codes.flatMap((c, i) => (c === code ? [figure(record, i)] : []));
}
