import Button from 'react-bootstrap/Button';

import { plausible, type Usual } from '@/core/record/plausible';
import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '@/core/tolerance';
import { signed, type LengthUnit } from '@/core/units';

/** A coarse reading that is hardly meant: why, and what may have been read. */
export interface CoarseDoubt {
  readonly coarseMm: number;
  readonly why: string;
  readonly meant: readonly number[];
}

/** What other combs of the sheet say of the place explains a reading that lies within this of it, mm. */
const GOES_WITH_MM = 2 * COARSE_GRADUATION_MM;

/** Asks about a cross that was read far from all that is on record, unless the sheet's other combs say so too. */
export function coarseDoubt(
  coarseMm: number,
  expectedMm: number | null,
  usual: Usual,
  unit: LengthUnit,
): CoarseDoubt | null {
  if (expectedMm !== null && Math.abs(coarseMm - expectedMm) <= GOES_WITH_MM) return null;
  const judged = plausible('offset', coarseMm, usual, unit);
  if (judged.say === 'fine') return null;
  const graduation = (mm: number): number => COARSE_GRADUATION_MM * Math.round(mm / COARSE_GRADUATION_MM);
  const meant = [...new Set(judged.meant.map(graduation))].filter(
    (mm) => mm !== 0 && Math.abs(mm) <= COARSE_REACH_MM,
  );
  return { coarseMm, why: judged.why, meant };
}

/** The question, in place: Enter once more, or a press that says what was read. */
export function CoarseAsked({ doubt, onMeant }: { doubt: CoarseDoubt; onMeant: (mm: number) => void }) {
  return (
    <div className="notice mt-2 mb-2" role="alert">
      {doubt.why} Look again: <kbd>Enter</kbd> keeps {signed(doubt.coarseMm, 1)} mm.
      {doubt.meant.length > 0 && (
        <span className="d-flex gap-2 flex-wrap mt-2">
          {doubt.meant.map((mm) => (
            <Button key={mm} variant="plain" className="mono" onClick={() => onMeant(mm)}>
              {signed(mm, 1)} mm
            </Button>
          ))}
        </span>
      )}
    </div>
  );
}
