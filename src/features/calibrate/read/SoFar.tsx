import type { Assessment } from '@/core/calibration';
import { termTable, TERM_NAMES, type TermName } from '@/core/fit';
import type { Rect } from '@/core/geometry';
import type { LengthUnit } from '@/core/units';

import { MisreadNote } from '../MisreadNote';
import { Fold } from '@/ui/Fold';
import { shiftWords, termWidth } from '../sentences';
import { TERM_WORDS, tellsTerm, termText } from '@/ui/words/termWords';

/** With fewer spare readings than this a lucky agreement of the others makes an honest one look odd. */
const ENOUGH_TO_SUSPECT = 6;

/** Which terms the readings determine so far, and which need more. */
export function SoFar({
  assessment,
  area,
  unit,
}: {
  assessment: Assessment | null;
  area: Rect;
  unit: LengthUnit;
}) {
  if (!assessment) return <p className="soft mb-0">Both combs of one station give the shift.</p>;
  const { axis } = assessment;
  const known: Readonly<Record<string, readonly TermName[]>> = {
    shift: ['shiftXMm', 'shiftYMm'],
    rigid: ['shiftXMm', 'shiftYMm', 'turnRad'],
    similarity: ['shiftXMm', 'shiftYMm', 'turnRad', 'scaleAcross', 'scaleAlong'],
    affine: TERM_NAMES,
  };
  const rows = termTable(assessment.fit, area, assessment.readingNoiseMm).filter((r) =>
    tellsTerm(axis, r.term),
  );
  return (
    <>
      <Fold
        name="read-so-far"
        words="Terms"
        usual={shiftWords(assessment.fit.field.exMm, assessment.fit.field.eyMm, unit)}
      >
        <table className="rows rows-tight">
          <tbody>
            {rows.map((row) => (
              <tr key={row.term}>
                <th scope="row">{TERM_WORDS[row.term]}</th>
                {known[assessment.fit.model]!.includes(row.term) ? (
                  <td className="text-end">
                    <span>{termText(row.term, row.deviation, unit)}</span>
                    <br />
                    <span className="small-print">{termWidth(row.term, row.halfWidth95, unit)}</span>
                  </td>
                ) : (
                  <td className="text-end soft">needs more</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </Fold>
      {axis && (
        <p className="small-print mt-2 mb-0">
          Only {axis === 'across' ? 'across' : 'along the feed'} is read: it can be corrected by itself, the
          other axis after it.
        </p>
      )}
      <MisreadNote misread={assessment.misread} />
      {assessment.fit.dof >= ENOUGH_TO_SUSPECT && assessment.ladder.suspects.length > 0 && (
        <p className="notice mt-2 mb-0">
          {assessment.ladder.suspects.map((s) => `${s.stationId} ${s.axis}`).join(', ')} does not agree with
          the others: look at it again.
        </p>
      )}
    </>
  );
}
