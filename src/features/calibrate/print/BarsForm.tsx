'use client';

import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import { useState, useTransition } from 'react';

import { barVerdict } from '@/core/recipe';
import { fieldLength, fixed, lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';

import { keeping } from '@/features/forms/keeping';

import { keepBars } from '../actions';

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
  const [typed, setTyped] = useState({ across: shown(acrossMm), along: shown(alongMm) });
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [pending, start] = useTransition();
  const save = (): void => {
    const found: Record<string, string> = {};
    const read = (axis: 'across' | 'along'): number | null => {
      if (typed[axis].trim() === '') return null;
      const length = parseLength(typed[axis], unit);
      if (length.ok) return length.value;
      found[axis] = lengthRefusalText(length.refusal, unit);
      return null;
    };
    const bars = { acrossMm: read('across'), alongMm: read('along') };
    setErrors(found);
    if (Object.keys(found).length > 0) return;
    start(async () => {
      const result = await keeping(['bars', session.id, bars], (stamp) =>
        keepBars({ sessionId: session.id, ...bars }, stamp),
      );
      if (result.ok) return;
      const { acrossMm: across, alongMm: along } = result.fields;
      setErrors({
        ...(across ? { across } : {}),
        ...(along ? { along } : {}),
        ...(across || along ? {} : { across: result.message }),
      });
    });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      <div className="row g-2">
        {(['across', 'along'] as const).map((axis) => (
          <div className="col-6" key={axis}>
            <FormLabel htmlFor={`bar-${axis}`}>
              Bar {axis}, {unit}
            </FormLabel>
            <FormControl
              id={`bar-${axis}`}
              inputMode="decimal"
              autoComplete="off"
              placeholder={fieldLength(nominal[axis], unit)}
              value={typed[axis]}
              aria-invalid={errors[axis] !== undefined}
              aria-describedby={`bar-${axis}-say`}
              onChange={(e) => setTyped({ ...typed, [axis]: e.target.value })}
            />
            <span id={`bar-${axis}-say`} className={errors[axis] ? 'field-error' : 'small-print'}>
              {errors[axis] ?? ''}
            </span>
          </div>
        ))}
      </div>
      <Button type="submit" variant="plain" className="mt-2" disabled={pending}>
        Keep what the rule says
      </Button>
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
    </form>
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
