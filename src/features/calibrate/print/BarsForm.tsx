'use client';

import { barVerdict } from '@/core/recipe';
import { fieldLength, fixed, type LengthUnit } from '@/core/units';
import { doubts } from '@/features/forms/kit/doubts';
import { Field, KeptForm } from '@/features/forms/kit/Fields';
import { lengthOrNone } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';

import { keepBars } from '../actions';

const BARS = [
  ['acrossMm', 'across'],
  ['alongMm', 'along'],
] as const;

/** What the rule says of the two check bars, and what the driver did to the print. */
export function BarsForm({
  session,
  nominal,
  acrossMm,
  alongMm,
  unit,
}: {
  session: { readonly id: string };
  nominal: { readonly across: number; readonly along: number };
  acrossMm: number | null;
  alongMm: number | null;
  unit: LengthUnit;
}) {
  const shown = (mm: number | null): string => (mm === null ? '' : fieldLength(mm, unit));
  const form = useKeptForm({
    ...{ unit, what: ['bars', session.id], done: '' },
    initial: { acrossMm: shown(acrossMm), alongMm: shown(alongMm) },
    readers: { acrossMm: lengthOrNone, alongMm: lengthOrNone },
    judge: (values, typed) =>
      BARS.flatMap(([name, axis]) =>
        doubts(name, typed[name], 'known length', values[name], { nominalMm: nominal[axis] }, unit),
      ),
    after: (typed) => typed,
    send: (bars, stamp) => keepBars({ sessionId: session.id, ...bars }, stamp),
  });
  return (
    <>
      <KeptForm form={form} words="Keep what the rule says">
        <div className="row g-2">
          {BARS.map(([name, axis]) => (
            <Field
              key={axis}
              {...{ form, name, id: `bar-${axis}`, label: `Bar ${axis}, ${unit}` }}
              placeholder={fieldLength(nominal[axis], unit)}
              figures
            />
          ))}
        </div>
      </KeptForm>
      {[
        barWords('across', 'wide', 'narrow', nominal.across, acrossMm),
        barWords('along', 'long', 'short', nominal.along, alongMm),
      ].map(
        (words) =>
          words && (
            <p key={words} className={`mt-2 mb-0 ${words.startsWith('The') ? 'notice' : 'small-print'}`}>
              {words}
            </p>
          ),
      )}
    </>
  );
}

function barWords(
  axis: string,
  more: string,
  less: string,
  nominalMm: number,
  measuredMm: number | null,
): string | null {
  if (measuredMm === null) return null;
  const scaled = barVerdict(nominalMm, measuredMm);
  if (!scaled) return `Bar ${axis}: true, as far as a rule tells.`;
  const size = `${fixed(Math.abs(scaled.percent), 1)} %`;
  return `The print is ${size} too ${scaled.percent > 0 ? more : less}: the driver scaled it. Set it to 100 %, no fitting, and print again before reading.`;
}
