'use client';

import Button from 'react-bootstrap/Button';
import { Check, Copy } from 'lucide-react';
import { useState } from 'react';

import { typeThese, type Imposition, type Section } from '@/core/layout';
import { Fold } from '@/ui/Fold';
import { fixed, plainLength, placesOfStep, type LengthUnit } from '@/core/units';

const NAMES = {
  'page height': 'section height',
  copies: 'copies in it',
  'mark spacing': 'mark spacing',
  'page width': 'width, last',
} as const;

/** The figures as they are typed, rounded the safe way, with the arithmetic, and the width last. */
export function TypeThese({
  section,
  lastSection,
  imposition,
  markRoomMm,
  printableWidthMm,
  hasMarks,
  unit,
  step,
}: {
  section: Section;
  lastSection: Section | null;
  imposition: Imposition;
  markRoomMm: number;
  printableWidthMm: number;
  hasMarks: boolean;
  unit: LengthUnit;
  step: number;
}) {
  const figures = (s: Section) =>
    typeThese(
      { pageHeightMm: s.heightMm + 2 * markRoomMm, copies: s.copies },
      printableWidthMm,
      hasMarks ? s.endMm - s.startMm : null,
      unit,
      step,
    );
  const rows = section.rows === 1 ? '1 row' : `${section.rows} rows`;
  const gaps = section.rows - 1;
  const pageMm = section.heightMm + 2 * markRoomMm;
  return (
    <section className="panel">
      <h2>Type these</h2>
      {figures(section).map((figure) => (
        <Row key={figure.name} name={NAMES[figure.name]} figure={figure} />
      ))}
      <Fold name="type-these" words={`Where ${plainLength(pageMm, unit)} comes from`}>
        <p className="small-print mb-0">
          {rows} of {plainLength(imposition.itemHeightMm, unit)}
          {gaps > 0 && `, ${gaps} ${gaps === 1 ? 'gap' : 'gaps'} of ${plainLength(imposition.gapMm, unit)}`}
          {markRoomMm > 0 && `, and ${plainLength(markRoomMm, unit)} for marks at each end`} make{' '}
          {plainLength(pageMm, unit)}. Height rounded up, width down, to {step} {unit}. Check the width last:
          some machines reset it.
        </p>
      </Fold>
      {lastSection && (
        <details className="working">
          <summary>The last section is shorter</summary>
          {figures(lastSection).map((figure) => (
            <Row key={figure.name} name={NAMES[figure.name]} figure={figure} small />
          ))}
        </details>
      )}
    </section>
  );
}

function Row({
  name,
  figure,
  small = false,
}: {
  name: string;
  figure: ReturnType<typeof typeThese>[number];
  small?: boolean;
}) {
  const [copied, setCopied] = useState(false);
  const text = figure.unit === null ? String(figure.value) : fixed(figure.value, placesOfStep(figure.step));
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(text.replace('\u2212', '-')).catch(() => undefined);
    setCopied(true);
    setTimeout(() => setCopied(false), 1500);
  };
  return (
    <div className="type-row">
      <span>{name}</span>
      <span className="mono to" style={small ? { fontSize: '1.4rem' } : undefined}>
        {text}
      </span>
      <span className="mono">{figure.unit ?? ''}</span>
      <Button
        variant="plain"
        className="px-2"
        onClick={() => void copy()}
        aria-label={`Copy ${name}, ${text}${figure.unit === null ? '' : ` ${figure.unit}`}`}
      >
        {copied ? <Check size={18} aria-hidden /> : <Copy size={18} aria-hidden />}
      </Button>
    </div>
  );
}
