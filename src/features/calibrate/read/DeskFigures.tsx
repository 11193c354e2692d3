import { pickUncertaintyMm } from '@/core/comb';
import { directionWord, lengthText, signed, signedLengthFigure, type LengthUnit } from '@/core/units';

import type { AtHand } from './DeskPicture';
import { combOf, type Hand } from './readingHand';
import { Word } from '@/ui/words/Word';

/** Below this a cut lies on its print, mm: half of what is shown. */
const ON_THE_PRINT_MM = 0.005;

/** What the hand reads now, large, with its side and its doubt. */
export function DeskFigures({
  hand,
  at,
  ready,
  unit,
}: {
  hand: Hand;
  at: AtHand;
  ready: boolean;
  unit: LengthUnit;
}) {
  const { task, offsetMm, pick } = at;
  const comb = combOf(task);
  if (hand.mode === 'coarse')
    return (
      <>
        <h2>
          <Word of="coarse cross">Coarse</Word> reading
        </h2>
        <div className="mono big-figure">{signed(hand.coarseMm, 1)}</div>
        <p className="mb-0">
          mm, to the nearest half
          {hand.coarseMm !== 0 && (
            <>
              : the cut is <strong>{directionWord(hand.coarseMm, task.axis)}</strong>
            </>
          )}
        </p>
      </>
    );
  return (
    <>
      <h2>
        This <Word of="comb">comb</Word>
      </h2>
      <div className="mono big-figure" data-testid="reading">
        {ready ? signedLengthFigure(offsetMm, unit) : '…'}
      </div>
      <p className="mb-1">
        {unit}, the cut is{' '}
        {Math.abs(offsetMm) < ON_THE_PRINT_MM ? (
          'on the print'
        ) : (
          <strong>{directionWord(offsetMm, task.axis)}</strong>
        )}
      </p>
      <p className="small-print mb-1">
        ±{lengthText(pickUncertaintyMm(comb.stepMm), unit)}
        {pick.lengths !== 0 && (
          <>
            ; the label plus {signedLengthFigure(pick.lengths * (2 * comb.halfLines + 1) * comb.stepMm, unit)}{' '}
            {unit} from the coarse cross
          </>
        )}
      </p>
    </>
  );
}
