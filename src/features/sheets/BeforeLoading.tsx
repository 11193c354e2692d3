'use client';

import { useState, type ReactNode } from 'react';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import { printScaleOf, RULE_DOUBT_MM, type MarkDistance } from '@/core/sheetJob';
import { fixed, lengthRefusalText, lengthText, parseLength, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { CutScaled } from './JobActs';

/** The one card before a printed sheet is loaded: what to look at, and whether it is as large as it should be. */
export function BeforeLoading({
  job,
  marked,
  between,
  face,
  mayCut,
  follows,
  unit,
  children,
}: {
  job: { readonly id: string; readonly version: number };
  /** The sheet has marks. */
  marked: boolean;
  /** The two marks to lay a rule along; null with fewer. */
  between: MarkDistance | null;
  /** Which face is printed, as the recipe has it; empty where nobody noted it. */
  face: string;
  /** A cut file can still be made. */
  mayCut: boolean;
  /** The machine reads so many marks that it follows a scaled print by itself. */
  follows: boolean;
  unit: LengthUnit;
  /** What more there is to measure. */
  children?: ReactNode;
}) {
  const ready = useHydrated();
  const [seen, setSeen] = useState<readonly string[]>([]);
  const [typed, setTyped] = useState('');
  const looks = [
    ...(marked ? ['every mark is whole and clean'] : []),
    face ? `printed on the right face: ${face}` : 'printed on the right face',
    'the ink is dry, the sheet lies flat',
  ];
  const read = typed.trim() === '' ? null : parseLength(typed, unit);
  const measuredMm = read?.ok ? read.value : null;
  const scale = between && measuredMm !== null ? printScaleOf(between.mm, measuredMm) : null;
  return (
    <section className="panel">
      <h2>2. Before loading</h2>
      {looks.map((words) => (
        <div key={words} className="form-check d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
          <FormCheckInput
            id={`look-${words}`}
            type="checkbox"
            className="mt-0"
            disabled={!ready}
            checked={seen.includes(words)}
            onChange={() =>
              setSeen(seen.includes(words) ? seen.filter((w) => w !== words) : [...seen, words])
            }
          />
          <label htmlFor={`look-${words}`}>{words}</label>
        </div>
      ))}
      {between && (
        <>
          <FormLabel htmlFor="mark-distance" className="mt-2">
            {between.from} mark to {between.to} mark, middle to middle, {unit}
          </FormLabel>
          <FormControl
            id="mark-distance"
            className="mono"
            inputMode="decimal"
            autoComplete="off"
            disabled={!ready}
            value={typed}
            placeholder={lengthText(between.mm, unit)}
            isInvalid={read?.ok === false}
            aria-describedby="mark-distance-say"
            onChange={(event) => setTyped(event.target.value)}
          />
          <p
            id="mark-distance-say"
            className={read?.ok === false ? 'field-error' : 'small-print'}
            role="status"
          >
            {read?.ok === false
              ? lengthRefusalText(read.refusal, unit)
              : sizeWords(between.mm, measuredMm, scale, follows, unit)}
          </p>
          {scale !== null && !follows && mayCut && measuredMm !== null && (
            <CutScaled job={job} measuredMm={measuredMm} />
          )}
        </>
      )}
      {children}
    </section>
  );
}

/** What the rule says of the print. */
export function sizeWords(
  nominalMm: number,
  measuredMm: number | null,
  scale: number | null,
  follows: boolean,
  unit: LengthUnit,
): string {
  if (measuredMm === null)
    return `It should be ${lengthText(nominalMm, unit)}, ± ${lengthText(RULE_DOUBT_MM, unit)} by a rule.`;
  if (scale === null) return 'As large as it should be, as far as a rule tells.';
  const size = `${fixed(Math.abs(scale - 1) * 100, 2)} % too ${scale > 1 ? 'large' : 'small'}`;
  return follows
    ? `The print is ${size}: it was scaled. The machine follows it by its marks; the pieces come out that much off. Print again at 100 % where their size matters.`
    : `The print is ${size}: it was scaled. Print it again at 100 %, no fitting; or cut this print with a file of its own.`;
}
