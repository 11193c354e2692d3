import type { Assessment } from '@/core/calibration';
import { largestMm, uncertaintyBudget, type BudgetLine } from '@/core/correction';
import { addFields, MODELS, robustFit, type Observation } from '@/core/fit';
import { rectCentre, type Rect } from '@/core/geometry';
import { DEFAULT_ACUITY_OF_STEP } from '@/core/tolerance';
import { LEANING_FROM } from '@/core/verdict';
import { fixed, lengthText, signedLengthFigure, type LengthUnit } from '@/core/units';

import { shiftWords } from '../sentences';
import { Rows } from '@/ui/tables/Rows';
import { DataTable } from '@/ui/tables/DataTable';

const SOURCE_WORDS: Readonly<Record<BudgetLine['source'], string>> = {
  resolution: 'steps of the combs, through the fit',
  acuity: 'the eye, through the fit',
  'log and load': 'what the log and this load leave open',
  'load read': 'scatter of the load that was read',
  'next load': 'scatter of the next load',
  'turn of loads': 'turn of each load',
  settings: 'what the typed settings do, 5 % until proved',
};

const chance = (p: number): string => (p < 0.001 ? '< 0.001' : fixed(p, 3));

/** How it was worked out: models, noise, readings and residuals. */
export function Working({
  assessment,
  observations,
  workArea,
  stepMm,
  unit,
}: {
  assessment: Assessment;
  observations: readonly Observation[];
  workArea: Rect;
  /** Of the sheet’s combs. */
  stepMm: number;
  unit: LengthUnit;
}) {
  const centre = rectCentre(workArea);
  const { ladder, fit, plan, estimate, pooling, scatter, fromLog } = assessment;
  const robust = robustFit(fit, observations);
  const noise =
    fit.noise.kind === 'given-u'
      ? 'the uncertainty given with the readings; their residuals scatter no more than that'
      : `the scatter of the residuals, ${fixed(fit.noise.factor, 2)} times the given uncertainty, with Student’s t and ${fit.dof} degrees of freedom`;
  const told =
    pooling === 'alone' && estimate.noise.factor !== fit.noise.factor
      ? `What is promised counts ${fixed(estimate.noise.factor, 2)} times: with the residuals of ${scatter.loads} loads on record.`
      : null;
  return (
    <details className="panel working">
      <summary>How this was worked out</summary>
      <p>
        Each model is fitted by weighted least squares (weights 1/u², orthogonal factorisation). The simplest
        with the lowest χ² + 2k explains: <strong>{ladder.recommended}</strong>. The widest corrects:{' '}
        <strong>{ladder.widest}</strong>,{' '}
        {fromLog
          ? `joined with what ${fromLog.loads} loads on record lead to expect (${fromLog.version}; a chance of ${chance(fromLog.moved)} that it has moved since)`
          : `with its linear terms shrunk to ${fixed(plan.kept * 100, 0)} % (positive-part James–Stein)`}
        . Intervals use {noise}.{told && ` ${told}`}
      </p>
      <ModelTable ladder={ladder} unit={unit} />
      <p>
        T(p) = A·p + t, raw sheet mm: A = [[{fixed(fit.transform.a11, 6)}, {fixed(fit.transform.a12, 6)}], [
        {fixed(fit.transform.a21, 6)}, {fixed(fit.transform.a22, 6)}]], t = ({fixed(fit.transform.tx, 4)},{' '}
        {fixed(fit.transform.ty, 4)}). Shift terms are at the work-area centre ({fixed(centre.x, 1)},{' '}
        {fixed(centre.y, 1)}). Mean square over the work area {fixed(plan.meanSquareMm2, 4)} mm², its own
        variance {fixed(plan.estimationVarianceMm2, 4)} mm² (
        {fromLog ? 'scatter of its loads' : 'scatter of one load'} included): corrected when over twice that.
      </p>
      {robust && (
        <p>
          A robust fit, in which single wild readings count less (Huber’s weights), has the cut{' '}
          {shiftWords(robust.field.exMm, robust.field.eyMm, unit)} at the centre and differs from the plain
          one by at most {lengthText(largestMm(addFields(robust.field, fit.field, -1), workArea), unit)}{' '}
          inside the area. It is shown, not applied.
        </p>
      )}
      <DoubtTable assessment={assessment} stepMm={stepMm} unit={unit} />
      <ResidualTable assessment={assessment} unit={unit} />
    </details>
  );
}

/** Every model of the ladder, or why it cannot be told. */
function ModelTable({ ladder, unit }: { ladder: Assessment['ladder']; unit: LengthUnit }) {
  return (
    <Rows label="How it was worked out" className="mb-3">
      <thead>
        <tr>
          <th scope="col">model</th>
          <th scope="col" className="num">
            k
          </th>
          <th scope="col" className="num">
            χ²
          </th>
          <th scope="col" className="num">
            free
          </th>
          <th scope="col" className="num">
            P
          </th>
          <th scope="col" className="num">
            χ² + 2k
          </th>
          <th scope="col" className="num">
            RMS
          </th>
          <th scope="col" className="num">
            F, P against simpler
          </th>
        </tr>
      </thead>
      <tbody>
        {MODELS.map((name) => {
          const m = ladder.models[name];
          const f = ladder.nestedF.find((n) => n.big === name);
          if (m.status === 'refused')
            return (
              <tr key={name}>
                <th scope="row">{name}</th>
                <td colSpan={7}>{m.message}</td>
              </tr>
            );
          return (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td className="num">{m.k}</td>
              <td className="num">{fixed(m.chi2, 1)}</td>
              <td className="num">{m.dof}</td>
              <td className="num">{chance(m.chi2P)}</td>
              <td className="num">{fixed(m.aicKnownU, 1)}</td>
              <td className="num">{lengthText(m.rmsComponentMm, unit)}</td>
              <td className="num">{f ? `${fixed(f.F, 1)}, ${chance(f.p)}` : ''}</td>
            </tr>
          );
        })}
      </tbody>
    </Rows>
  );
}

/** The uncertainty budget at the place where it is largest. */
function DoubtTable({
  assessment: { plan },
  stepMm,
  unit,
}: {
  assessment: Assessment;
  stepMm: number;
  unit: LengthUnit;
}) {
  const budget = uncertaintyBudget(plan, plan.before.at, stepMm, DEFAULT_ACUITY_OF_STEP * stepMm);
  return (
    <>
      <h3 className="fs-6 fw-bold">Why not exact</h3>
      <p>
        Standard uncertainty of an axis at the {plan.before.name}, where it is largest, for the next load
        after one pass. The field is taken to be straight-line inside the work area; a print scale that the
        check bars would show is not in it. Plumb ends at {Math.round(100 * LEANING_FROM)} % of what is
        allowed: the rest is guard band.
      </p>
      <Rows label="How it was worked out, continued" className="mb-3">
        <tbody>
          {budget.lines.map((l) => (
            <tr key={l.source}>
              <th scope="row">{SOURCE_WORDS[l.source]}</th>
              <td className="num">{lengthText(l.uMm, unit)}</td>
            </tr>
          ))}
          <tr>
            <th scope="row">together, root of the sum of squares</th>
            <td className="num">{lengthText(budget.combinedMm, unit)}</td>
          </tr>
        </tbody>
      </Rows>
    </>
  );
}

/** What the fit left of each reading. */
function ResidualTable({ assessment: { fit, ladder }, unit }: { assessment: Assessment; unit: LengthUnit }) {
  return (
    <DataTable
      label="What is left"
      rows={fit.observations}
      keyOf={(o) => `${o.stationId}-${o.axis}`}
      columns={[
        ['station', (o) => o.stationId, 'row'],
        [
          'axis',
          (o) => (
            <>
              {o.axis}
              {ladder.suspects.some((s) => s.stationId === o.stationId && s.axis === o.axis) && (
                <strong> look again</strong>
              )}
            </>
          ),
        ],
        [`left over, ${unit}`, (o) => signedLengthFigure(o.residualMm, unit), 'num'],
        ['leverage', (o) => fixed(o.leverage, 2), 'num'],
        ['studentised', (o) => (o.studentised === null ? '' : fixed(o.studentised, 2)), 'num'],
      ]}
    />
  );
}
