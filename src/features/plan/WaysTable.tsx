import FormCheckInput from 'react-bootstrap/FormCheckInput';
import { line, scaleLinear } from 'd3';

import type { ProfilePoint, RollPlan, StrategyName } from '@/core/layout';
import { LONG_UNIT, lengthFigure, type LengthUnit, longText } from '@/core/units';

import { duration, expectedItems, STRATEGY_WORDS } from '@/ui/words/planWords';
import { DataTable } from '@/ui/tables/DataTable';

/** Ways to run it, side by side. Choosing one shows it. */
export function WaysTable({
  plan,
  profiles,
  toleranceMm,
  chosen,
  onChoose,
  unit,
}: {
  plan: RollPlan;
  /** Expected misses along the run, one for each way. */
  profiles: readonly (readonly ProfilePoint[])[];
  toleranceMm: number;
  chosen: StrategyName;
  onChoose: (name: StrategyName) => void;
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>Ways to run it</h2>
      <DataTable
        label="Ways to run it"
        tight
        rows={plan.strategies}
        keyOf={(s) => s.name}
        rowProps={(s) => ({ className: s.missing ? 'soft' : undefined })}
        columns={[
          [
            'way',
            (s, i) => (
              <label className="d-flex gap-2 align-items-start mb-0" style={{ minHeight: 32 }}>
                <FormCheckInput
                  type="radio"
                  className="mt-1 flex-shrink-0"
                  name="way"
                  checked={chosen === s.name}
                  disabled={s.missing !== null}
                  onChange={() => onChoose(s.name)}
                />
                <span>
                  {s.sections.length > 1
                    ? `${s.sections.length} ${STRATEGY_WORDS[s.name]}`
                    : STRATEGY_WORDS[s.name]}
                  <SmallCurve profile={profiles[i]!} toleranceMm={toleranceMm} />
                  <span className="small-print">
                    {s.missing ?? duration(s.time.totalS)}
                    {!s.fitsRoll && '; longer than the roll'}
                  </span>
                </span>
              </label>
            ),
            'row',
          ],
          [`drift, ${unit}`, (s) => lengthFigure(s.worstR95Mm, unit), 'num'],
          [`spoiled, of ${plan.imposition.copies}`, (s) => expectedItems(s.spoiled), 'num'],
          [`media, ${LONG_UNIT[unit]}`, (s) => longText(s.mediaMm, unit).split(' ')[0], 'num'],
        ]}
      />
    </section>
  );
}

const BOX = { width: 100, height: 26 };
/** All ways on one scale: what is allowed lies at the same height. */
const TOLERANCES_SHOWN = 2;

/** Expected misses along the run against what is allowed; the figures stand beside it. */
function SmallCurve({ profile, toleranceMm }: { profile: readonly ProfilePoint[]; toleranceMm: number }) {
  const x = scaleLinear([0, profile.at(-1)!.yMm], [0, BOX.width]);
  const y = scaleLinear([0, TOLERANCES_SHOWN * toleranceMm], [BOX.height - 1, 1]).clamp(true);
  const path = line<ProfilePoint>(
    (p) => x(p.yMm),
    (p) => y(p.r95Mm),
  );
  return (
    <svg
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      width={BOX.width}
      height={BOX.height}
      className="d-block my-1"
      aria-hidden
    >
      <path
        d={`M0 ${y(toleranceMm)}H${BOX.width}`}
        stroke="var(--rp-ink)"
        strokeDasharray="4 3"
        opacity="0.7"
      />
      <path d={path(profile)!} fill="none" stroke="var(--rp-cut)" strokeWidth="1.8" />
      <path d={`M0 ${BOX.height - 1}H${BOX.width}`} stroke="var(--rp-plumb)" strokeWidth="1.4" />
    </svg>
  );
}
