import type { ExpectedMiss, RollPlan, Strategy } from '@/core/layout';
import { lengthText, type LengthUnit, longText } from '@/core/units';

import { duration } from '@/ui/words/planWords';
import { Word } from '@/ui/words/Word';

const OF_100 = ', 95 of 100';

/** What the plan comes to, figure by figure. */
export function PlanFigures({
  plan,
  chosen,
  expected,
  unit,
}: {
  plan: RollPlan;
  chosen: Strategy;
  expected: ExpectedMiss;
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>What it comes to</h2>
      <dl className="figures">
        {planFigures(plan, chosen, expected, unit).map(([name, value]) => (
          <div key={name}>
            <dt>
              {name.replace(OF_100, '')}
              {name.endsWith(OF_100) && (
                <>
                  , <Word of="95 of 100" />
                </>
              )}
            </dt>
            <dd className="mono">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** Names and values, in the order of the work. */
export function planFigures(
  { imposition }: RollPlan,
  { sections, rowsPerSection, printedMm, mediaMm, waste, time }: Strategy,
  { untilCheckedMm, thenMm }: ExpectedMiss,
  unit: LengthUnit,
): [name: string, value: string][] {
  const last = sections.at(-1)!;
  const overlap = time.printS + time.waitS + time.cutS - time.totalS;
  return [
    ['layout', `${imposition.columns} across × ${imposition.rows} rows`],
    ['sections', `${sections.length} of ${rowsPerSection} ${rowsPerSection === 1 ? 'row' : 'rows'}`],
    ['a section’s rows take', lengthText(sections[0]!.heightMm, unit)],
    ['last section', `${last.copies} copies, ${last.rows} ${last.rows === 1 ? 'row' : 'rows'}`],
    ['printed length', longText(printedMm, unit)],
    ['media used', longText(mediaMm, unit)],
    ['waste', `${Math.round(100 * waste)} %`],
    ['section 1 until it is checked, 95 of 100', lengthText(untilCheckedMm, unit)],
    ...(thenMm === null ? [] : [['then, 95 of 100', lengthText(thenMm, unit)] as [string, string]]),
    ['print', duration(time.printS)],
    ...(time.waitS > 0 ? [['wait', duration(time.waitS)] as [string, string]] : []),
    ['cut', duration(time.cutS)],
    ['in all', duration(time.totalS)],
    ...(overlap > 59 ? [['saved by overlapping', duration(overlap)] as [string, string]] : []),
  ];
}
