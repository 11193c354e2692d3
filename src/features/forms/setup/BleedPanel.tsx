'use client';

import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import { useState } from 'react';

import { bleedFor, shareHidden, type BleedPoint } from '@/core/correction/bleedCurve';
import { lengthRefusalText, lengthText, parseLength, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

const TABLE = [
  ['95 of 100 cuts', 0.95],
  ['99 of 100 cuts', 0.99],
  ['999 of 1000 cuts', 0.999],
] as const;

/** How much bleed hides what this rig does today, and what the bleed of a job hides. */
export function BleedPanel({
  curve,
  title,
  unit,
}: {
  curve: readonly BleedPoint[];
  title: string;
  unit: LengthUnit;
}) {
  const [typed, setTyped] = useState('');
  const ready = useHydrated();
  const read = typed.trim() === '' ? null : parseLength(typed, unit);
  return (
    <section className="panel">
      <h2>{title}</h2>
      <p>Bleed, or border that may be uneven, all round each item:</p>
      <table className="rows mb-3">
        <tbody>
          {TABLE.map(([cuts, share]) => (
            <tr key={cuts}>
              <th scope="row">{cuts}</th>
              <td className="num">{lengthText(bleedFor(curve, share)!, unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <FormLabel htmlFor="bleed-have">The job has, {unit}</FormLabel>
      <FormControl
        id="bleed-have"
        className="mono"
        inputMode="decimal"
        autoComplete="off"
        disabled={!ready}
        value={typed}
        aria-invalid={read?.ok === false}
        aria-describedby="bleed-says"
        onChange={(event) => setTyped(event.target.value)}
      />
      <p
        id="bleed-says"
        className={read?.ok === false ? 'field-error mb-0' : 'small-print mb-0'}
        aria-live="polite"
      >
        {read === null
          ? 'Type a bleed to see how many cuts it hides.'
          : read.ok
            ? hiddenWords(shareHidden(curve, Math.max(0, read.value)))
            : lengthRefusalText(read.refusal, unit)}
      </p>
    </section>
  );
}

/** “It hides 97 of 100 cuts; 3 of 100 would show.” Rarer ones by the thousand. */
export function hiddenWords(share: number | null): string {
  if (share === null || share > 0.9999) return 'It hides all but one in ten thousand cuts, or more.';
  const of = share > 0.99 ? 10_000 : share > 0.9 ? 1000 : 100;
  const shows = Math.max(1, Math.round((1 - share) * of));
  return `At the worst place it hides ${of - shows} of ${of} cuts; ${shows} would show.`;
}
