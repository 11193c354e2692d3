import { isReal, lengthError, type LengthError } from '@/core/drift';
import { plainLength, RATE_UNIT, rateFigure, rateText, signedRate, type LengthUnit } from '@/core/units';
import type { TapeMeasure } from '@/server/drift/tapeMeasures';
import { dateText } from '@/clock/dates';
import { Rows } from '@/ui/tables/Rows';

/** What the steel tape says of the printer. */
export function TapeSays({
  tapes,
  print,
  unit,
}: {
  tapes: readonly TapeMeasure[];
  /** Of the measures since the feed was last changed. */
  print: LengthError | null;
  unit: LengthUnit;
}) {
  if (tapes.length === 0)
    return (
      <p className="small-print">
        Print a line of known length, measure it with a steel tape. The feed of the printer is set by that,
        before the cut is looked at. A cut line that is measured on the same day counts for the creep.
      </p>
    );
  return (
    <>
      <p className="mb-2">
        {print === null
          ? 'Not measured since the feed was changed: measure again.'
          : isReal(print)
            ? `${rateText(print.perM, unit)} ± ${rateFigure(2 * print.uPerM, unit)} too ${print.perM > 0 ? 'long' : 'short'}.`
            : `True within what the tape can tell (± ${rateText(2 * print.uPerM, unit)}): leave the feed as it is.`}
      </p>
      <Rows label="Measured by tape" tight className="mb-2">
        <tbody>
          {tapes.slice(0, 5).map((t) => {
            const own = lengthError([t])!;
            return (
              <tr key={t.at.toISOString()}>
                <td>
                  {t.of}, {plainLength(t.measuredMm, unit)} of {plainLength(t.nominalMm, unit)}
                  <br />
                  <span className="small-print">
                    {dateText(t.at, 'd MMM')}, {t.by}
                  </span>
                </td>
                <td className="num text-nowrap">
                  {signedRate(own.perM, unit)} ± {rateFigure(2 * own.uPerM, unit)} {RATE_UNIT[unit]}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Rows>
    </>
  );
}
