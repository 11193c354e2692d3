import type { ReactNode } from 'react';
import Table from 'react-bootstrap/Table';

/** A table of rows that scrolls within itself where the page is narrow; by keys too, so it says what it is. */
export function Rows({
  label,
  tight = false,
  className = '',
  children,
}: {
  /** What the table is of, for whoever gets there by keys or ears. */
  label: string;
  tight?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <div
      className={`overflow-auto position-relative ${className}`}
      role="group"
      aria-label={label}
      tabIndex={0}
    >
      <Table borderless className={`rows mb-0${tight ? ' rows-tight' : ''}`}>
        {children}
      </Table>
    </div>
  );
}
