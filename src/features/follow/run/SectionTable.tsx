import type { LengthUnit } from '@/core/units';
import type { Run } from '@/server/runs/run';

import { FinishForm } from './RunForms';
import { CheckFigures } from './RunPanels';
import { dateText } from '@/clock/dates';
import { Rows } from '@/ui/tables/Rows';

const STATE_OF = { waiting: 'waiting', cut: 'cut', finished: 'weeded' } as const;

export function SectionTable({ run, unit }: { run: Run; unit: LengthUnit }) {
  return (
    <section className="panel">
      <h2>Section by section</h2>
      <Rows label="Sections" tight>
        <thead>
          <tr>
            <th scope="col">section</th>
            <th scope="col" className="num">
              rows
            </th>
            <th scope="col" className="num">
              copies
            </th>
            <th scope="col">state</th>
            <th scope="col">checks, {unit}: along, across</th>
            <th scope="col">spoiled</th>
          </tr>
        </thead>
        <tbody>
          {run.plan.sections.map((s, i) => {
            const own = run.sections[i]!;
            const checks = run.checks.filter((c) => c.section === s.index);
            return (
              <tr key={s.index}>
                <th scope="row">{s.index}</th>
                <td className="num">
                  {s.rows === 1 ? s.firstRow : `${s.firstRow}–${s.firstRow + s.rows - 1}`}
                </td>
                <td className="num">{s.copies}</td>
                <td>
                  {STATE_OF[own.state]}
                  {own.cutAt && <span className="soft">, {dateText(own.cutAt, 'd MMM HH:mm')}</span>}
                </td>
                <td>
                  {checks.map((c) => (
                    <span key={c.id} className="d-block text-nowrap">
                      {c.place}: <CheckFigures check={c} unit={unit} /> {c.by}
                    </span>
                  ))}
                </td>
                <td>
                  {own.state === 'waiting' ? (
                    ''
                  ) : run.stage === 'running' ? (
                    <FinishForm
                      key={`${own.state} ${own.spoiled}`}
                      runId={run.id}
                      section={s.index}
                      copies={s.copies}
                      counted={own.spoiled}
                    />
                  ) : (
                    <span className="mono">{own.spoiled}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Rows>
    </section>
  );
}
