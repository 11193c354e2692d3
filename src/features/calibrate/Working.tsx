import type { Assessment } from '@/core/calibration';
import { MODELS } from '@/core/fit';
import type { Point } from '@/core/geometry';
import { fixed, lengthText, signedLengthFigure, type LengthUnit } from '@/core/units';

const chance = (p: number): string => (p < 0.001 ? '< 0.001' : fixed(p, 3));

/** How it was worked out: models, noise, readings and residuals. */
export function Working({
  assessment,
  unit,
  centre,
}: {
  assessment: Assessment;
  unit: LengthUnit;
  centre: Point;
}) {
  const { ladder, fit, plan } = assessment;
  const noise =
    fit.noise.kind === 'given-u'
      ? 'the uncertainty given with the readings; their residuals scatter no more than that'
      : `the scatter of the residuals, ${fixed(fit.noise.factor, 2)} times the given uncertainty, with Student’s t and ${fit.dof} degrees of freedom`;
  return (
    <details className="panel working">
      <summary>How this was worked out</summary>
      <p>
        Each model is fitted by weighted least squares (weights 1/u², orthogonal factorisation). The simplest
        with the lowest χ² + 2k explains: <strong>{ladder.recommended}</strong>. The widest corrects:{' '}
        <strong>{ladder.widest}</strong>, with its linear terms shrunk to {fixed(plan.kept * 100, 0)} %
        (positive-part James–Stein). Intervals use {noise}.
      </p>
      <table className="rows mb-3">
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
      </table>
      <p>
        T(p) = A·p + t, raw sheet mm: A = [[{fixed(fit.transform.a11, 6)}, {fixed(fit.transform.a12, 6)}], [
        {fixed(fit.transform.a21, 6)}, {fixed(fit.transform.a22, 6)}]], t = ({fixed(fit.transform.tx, 4)},{' '}
        {fixed(fit.transform.ty, 4)}). Shift terms are at the work-area centre ({fixed(centre.x, 1)},{' '}
        {fixed(centre.y, 1)}). Mean square over the work area {fixed(plan.meanSquareMm2, 4)} mm², its own
        variance {fixed(plan.estimationVarianceMm2, 4)} mm² (load scatter of 0.03 mm an axis assumed):
        corrected when over twice that.
      </p>
      <table className="rows">
        <thead>
          <tr>
            <th scope="col">station</th>
            <th scope="col">axis</th>
            <th scope="col" className="num">
              left over, {unit}
            </th>
            <th scope="col" className="num">
              leverage
            </th>
            <th scope="col" className="num">
              studentised
            </th>
          </tr>
        </thead>
        <tbody>
          {fit.observations.map((o) => {
            const suspect = ladder.suspects.some((s) => s.stationId === o.stationId && s.axis === o.axis);
            return (
              <tr key={`${o.stationId}-${o.axis}`}>
                <th scope="row">{o.stationId}</th>
                <td>
                  {o.axis}
                  {suspect && <strong> look again</strong>}
                </td>
                <td className="num">{signedLengthFigure(o.residualMm, unit)}</td>
                <td className="num">{fixed(o.leverage, 2)}</td>
                <td className="num">{o.studentised === null ? '' : fixed(o.studentised, 2)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}
