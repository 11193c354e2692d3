'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { LengthUnit } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { keepOther } from '../actions';
import { GAP_LABELS, gapFields, noGaps, readGapTexts, type GapField, type GapTexts } from './otherWays.view';

/** A shape of the sheet's own, and whether it was read. */
export interface OwnShape {
  readonly id: string;
  readonly read: boolean;
}

/** Gaps round a shape: one of the sheet's own, or any other. */
export function GapsForm({
  passId,
  shapes,
  unit,
}: {
  passId: string;
  shapes: readonly OwnShape[];
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [chosen, setChosen] = useState<string | null>(null);
  // The first of the sheet's own that was not read, unless somebody chose.
  const own = chosen ?? (shapes.find((s) => !s.read) ?? shapes[0])?.id ?? '';
  const [texts, setTexts] = useState<GapTexts>(() => noGaps(unit));
  const [errors, setErrors] = useState<Readonly<Partial<Record<GapField, string>>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const save = (): void => {
    const read = readGapTexts(texts, unit, own !== '');
    setErrors(read.ok ? {} : read.errors);
    setSaid('');
    if (!read.ok) return;
    start(async () => {
      const { gaps, resolutionMm } = read.value;
      const done = await keeping(['gaps', passId, own, read.value], (stamp) =>
        keepOther(
          { way: 'gaps', passId, ...(own ? { stationId: own, gaps, resolutionMm } : read.value) },
          stamp,
        ),
      );
      if (!done.ok) return setSaid(whyNotDone(done));
      // The border and the ruler stay; the next shape is elsewhere.
      setTexts({ ...noGaps(unit), nominal: texts.nominal, resolution: texts.resolution });
      if (own) setChosen(null);
      setSaid(done.value.doubts.map((d) => d.message).join(' '));
    });
  };
  return (
    <form
      className="stack"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <h2 className="mb-0">Gaps round a shape</h2>
      <p className="small-print mb-0">
        From the printed edge to the cut, on each side of one shape. Plus: the cut lies outside the print;
        minus: inside. Fractions of an inch work too.
      </p>
      {shapes.length > 0 && (
        <div>
          <FormLabel htmlFor="gap-shape">Shape</FormLabel>
          <FormSelect
            id="gap-shape"
            disabled={!ready}
            value={own}
            onChange={(event) => setChosen(event.target.value)}
          >
            {shapes.map((s) => (
              <option key={s.id} value={s.id}>
                {`the block of ${s.id}${s.read ? ', read' : ''}`}
              </option>
            ))}
            <option value="">another shape</option>
          </FormSelect>
          {own && (
            <span className="small-print">
              Its borders differ from side to side on purpose, so that no two round alike: type what you
              measure.
            </span>
          )}
        </div>
      )}
      <div className="row g-2">
        {gapFields(own !== '').map((field) => (
          <div className="col-6" key={field}>
            <FormLabel htmlFor={`gap-${field}`}>
              {GAP_LABELS[field]}, {unit}
            </FormLabel>
            <FormControl
              id={`gap-${field}`}
              className="mono"
              inputMode="text"
              autoComplete="off"
              disabled={!ready}
              value={texts[field]}
              aria-invalid={errors[field] !== undefined}
              aria-describedby={errors[field] ? `gap-${field}-say` : undefined}
              onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
            />
            {errors[field] && (
              <span id={`gap-${field}-say`} className="field-error">
                {errors[field]}
              </span>
            )}
          </div>
        ))}
      </div>
      <div>
        <Button type="submit" variant="plain" disabled={!ready || pending}>
          Keep these gaps
        </Button>
      </div>
      <p className={said ? 'notice mb-0' : 'visually-hidden'} role="status">
        {said}
      </p>
    </form>
  );
}
