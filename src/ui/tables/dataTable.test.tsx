/** @jest-environment jsdom */
import '@test/dom';
import { render, screen, within } from '@testing-library/react';

import { DataTable, ears } from './DataTable';

const LOADS = [
  { id: 'a', name: 'first load', mm: 0.12, gone: false },
  { id: 'b', name: 'second load', mm: -0.3, gone: true },
];

test('a row each, named by its row heading; figures and their headings stand alike; what is sorted says so', () => {
  render(
    <DataTable
      label="Loads"
      rows={LOADS}
      keyOf={(l) => l.id}
      rowProps={(l) => ({ className: l.gone ? 'soft' : undefined })}
      sorted={{ 1: 'descending' }}
      columns={[
        ['load', (l) => l.name, 'row'],
        ['off, mm', (l, i) => `${i + 1}: ${l.mm}`, 'num text-nowrap'],
        [ears('take back'), (l) => <button>{`Take ${l.id} back`}</button>],
      ]}
    />,
  );
  const table = within(screen.getByRole('group', { name: 'Loads' })).getByRole('table');
  expect(
    within(table)
      .getAllByRole('columnheader')
      .map((h) => h.textContent),
  ).toEqual([...['load', 'off, mm', 'take back']]);
  const off = within(table).getByRole('columnheader', { name: 'off, mm' });
  expect(off).toHaveClass('num', { exact: true });
  expect(off).toHaveAttribute('aria-sort', 'descending');
  expect(within(table).getByRole('columnheader', { name: 'load' })).not.toHaveAttribute('aria-sort');
  const second = within(table).getByRole('rowheader', { name: 'second load' }).closest('tr')!;
  expect(second).toHaveClass('soft');
  expect(within(second).getByText('2: -0.3')).toHaveClass('num text-nowrap', { exact: true });
  expect(within(second).getByRole('button', { name: 'Take b back' })).toBeInTheDocument();
});

test('without rows the headings stand alone', () => {
  render(<DataTable label="Loads" rows={[]} columns={[['load', () => 'x']]} />);
  expect(screen.getAllByRole('row')).toHaveLength(1);
});
