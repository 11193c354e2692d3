import { unparse } from 'papaparse';

/** A column of an export: its heading, and what stands under it. */
export type CsvColumn<Row> = readonly [heading: string, of: (row: Row) => unknown];

/**
 * Rows as CSV (RFC 4180): CRLF, quotes doubled. A text that a spreadsheet would run as a formula gets an apostrophe in front;
 * numbers stay numbers.
 */
export const csvLines = (rows: readonly (readonly unknown[])[]): string =>
  rows.length === 0 ? '' : `${unparse(rows as unknown[][], { newline: '\r\n', escapeFormulae: true })}\r\n`;

/** The headings of a table. */
export const csvHead = <Row>(columns: readonly CsvColumn<Row>[]): string =>
  csvLines([columns.map(([heading]) => heading)]);

/** What stands under them. */
export const csvRows = <Row>(columns: readonly CsvColumn<Row>[], rows: readonly Row[]): string =>
  csvLines(rows.map((row) => columns.map(([, of]) => of(row))));
