import { MOVED_FROM, type Assessment } from '@/core/calibration';
import type { KindOfFault } from '@/core/diagnosis';
import type { AffineField, Observation, termTable } from '@/core/fit';
import { lengthText, type LengthUnit } from '@/core/units';
import type { Pass } from '@/server/sessions/session';
import { SpreadMaps } from '@/ui/pictures/SpreadMaps';
import { scatterWords } from '@/ui/words/scatterWords';
import { TERM_WORDS, termText } from '@/ui/words/termWords';
import { Word } from '@/ui/words/Word';

import { BacklashNote, backlashWords } from '../BacklashNote';
import { LogNote } from '../LogNote';
import { registrationWords, termWidth, type whereTermsGo } from '../sentences';
import { FunnelFigure } from './FunnelFigure';
import { KindsPanel } from './KindsPanel';
import { Working } from './Working';

/** What the answer is made of: terms, kinds of fault, log, scatter, the field of misses, the sums. */
export function Why({
  pass,
  toleranceMm,
  observations,
  assessment: a,
  rows,
  parts,
  kinds,
  after,
  unit,
}: {
  pass: Pass;
  toleranceMm: number;
  observations: readonly Observation[];
  assessment: Assessment;
  rows: ReturnType<typeof termTable>;
  parts: ReturnType<typeof whereTermsGo>;
  kinds: readonly KindOfFault[] | null;
  /** What is left after the correction; null where nothing is corrected. */
  after: { readonly bias: AffineField; readonly covariance: readonly (readonly number[])[] } | null;
  unit: LengthUnit;
}) {
  const { plan } = a;
  const { spec } = pass.sheet.geometry;
  const { load, shares, covariance } = plan;
  const leave = plan.decision === 'leave';
  const backlash = backlashWords(a.backlash, unit);
  return (
    <>
      <TermsPanel rows={rows} parts={parts} leave={leave} unit={unit} />
      {leave && (
        <FunnelFigure
          loadSdMm={load.shiftMm}
          readingSdMm={Math.sqrt((covariance[4]![4]! + covariance[5]![5]!) / 2)}
          unit={unit}
        />
      )}
      {kinds && <KindsPanel kinds={kinds} />}
      {a.fromLog && a.fromLog.moved <= MOVED_FROM && <LogNote assessment={a} unit={unit} />}
      {backlash && !backlash.real && <BacklashNote note={backlash} />}
      <p className="small-print m-0">
        <Word of="load scatter">Load scatter</Word>: {scatterWords(a.scatter, unit, a.fromLog !== null)}
      </p>
      <p className="small-print m-0">{registrationWords(spec.marks?.count ?? 0)}</p>
      {!a.axis && (
        <SpreadMaps
          workArea={spec.workArea}
          toleranceMm={toleranceMm}
          before={{ bias: plan.field, covariance, load, shares }}
          after={after && { ...after, load, shares }}
          unit={unit}
        />
      )}
      <Working
        assessment={a}
        observations={observations}
        workArea={spec.workArea}
        stepMm={spec.stepMm}
        unit={unit}
      />
    </>
  );
}

/** Each term with its doubt, how much it matters, and where it goes. */
function TermsPanel({
  rows,
  parts,
  leave,
  unit,
}: {
  rows: ReturnType<typeof termTable>;
  parts: ReturnType<typeof whereTermsGo>;
  leave: boolean;
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>Parts of the error</h2>
      <table className="rows rows-tight">
        <thead>
          <tr>
            <th scope="col">term</th>
            <th scope="col" className="num">
              found
            </th>
            <th scope="col" className="num">
              at worst
            </th>
            <th scope="col">
              <span className="visually-hidden">what to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const place = parts[row.term];
            const goes = place === 'new each load' || (row.real && !leave) ? place : 'leave it';
            const toDo = goes !== 'leave it' && goes !== 'new each load';
            return (
              <tr key={row.term}>
                <th scope="row">{TERM_WORDS[row.term]}</th>
                <td className="text-end">
                  {termText(row.term, row.deviation, unit)}
                  <br />
                  <span className="small-print">{termWidth(row.term, row.halfWidth95, unit)}</span>
                </td>
                <td className="text-end text-nowrap ps-2">{lengthText(row.atWorstMm, unit)}</td>
                <td className="text-end ps-2">
                  <span className={`tag ${toDo ? 'tag-do' : 'tag-none'}`}>{goes}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
