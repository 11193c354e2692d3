import type { HTMLAttributes, ReactNode } from 'react';

import { Rows } from './Rows';

/**
 * A column: its heading, what stands in it, and how it looks. `row` makes it the name of its row; figures are `num`.
 * Several classes may be named; a heading is as wide as `num` says.
 */
export type Column<Row> = readonly [
  heading: ReactNode,
  cell: (row: Row, index: number) => ReactNode,
  look?: string,
];

/** A heading for ears: what is seen needs none. */
export const ears = (words: string): ReactNode => <span className="visually-hidden">{words}</span>;

/** One table for all: columns by heading, a row each, scrolled within itself where the page is narrow. */
export function DataTable<Row>({
  label,
  tight,
  className,
  columns,
  rows,
  keyOf = (_, index) => String(index),
  rowProps,
  sorted,
}: {
  label: string;
  tight?: boolean;
  className?: string;
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  keyOf?: (row: Row, index: number) => string | number;
  rowProps?: (row: Row) => HTMLAttributes<HTMLTableRowElement>;
  /** How a column that can be sorted by is sorted, by its place. */
  sorted?: Readonly<Record<number, 'ascending' | 'descending' | 'none' | undefined>>;
}) {
  return (
    <Rows label={label} tight={tight} className={className}>
      <thead>
        <tr>
          {columns.map(([heading, , look = ''], i) => (
            <th
              key={i}
              scope="col"
              className={/\bnum\b/.test(look) ? 'num' : undefined}
              aria-sort={sorted?.[i]}
            >
              {heading}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => (
          <tr key={keyOf(row, index)} {...rowProps?.(row)}>
            {columns.map(([, cell, look], i) =>
              look === 'row' ? (
                <th key={i} scope="row">
                  {cell(row, index)}
                </th>
              ) : (
                <td key={i} className={look}>
                  {cell(row, index)}
                </td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </Rows>
  );
}
