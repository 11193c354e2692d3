/** @jest-environment jsdom */
import '@test/dom';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { assessPass } from '@/core/calibration';
import { proofSheet } from '@test/sheets';
import { passReading } from '@/core/readings';

import { NextToRead } from './NextToRead';

const SHEET = proofSheet();
const AREA = SHEET.spec.workArea;
const STATIONS = SHEET.stations.filter((s) => s.set === 1);

function show(ids: readonly string[], here: string) {
  const onGo = jest.fn();
  const found = STATIONS.filter((s) => ids.includes(s.id)).flatMap((s) =>
    (['across', 'along'] as const).map((axis) =>
      passReading(s, axis, { line: 1, between: false, lengths: 0 }, null),
    ),
  );
  render(
    <NextToRead
      assessment={assessPass(found, [], AREA, 0.4)!}
      observations={found.map((r) => r.observation)}
      stations={STATIONS}
      {...{ area: AREA, here, unit: 'mm', onGo }}
    />,
  );
  return onGo;
}

test('after one station a far one tells most, and one tap leads there', async () => {
  const onGo = show([STATIONS[0]!.id], STATIONS[0]!.id);
  const said = screen.getByRole('status');
  expect(said).toHaveTextContent(/^Good to \d+\.\d\d mm; with \w+ \d+\.\d\d mm\./);
  await userEvent.setup().click(screen.getByRole('button', { name: 'Go there' }));
  expect(said).toHaveTextContent(onGo.mock.lastCall![0] as string);
});

test('no button to where one is; with all read there is nothing to propose', () => {
  const all = STATIONS.map((s) => s.id);
  show(all.slice(1), all[0]!);
  expect(screen.queryByRole('button')).not.toBeInTheDocument();
  document.body.innerHTML = '';
  show(all, all[0]!);
  expect(screen.queryByRole('status')).not.toBeInTheDocument();
});
