'use client';

import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';

import type { Point } from '@/core/geometry';
import { lengthText, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import {
  firstMarks,
  MOST_MARKS,
  readByHand,
  type ByHandSetup,
  type MarkField,
  type MarkFields,
} from './byHand.view';
import { MarkRow } from './MarkRow';
import { MoveFile } from './MoveFile';
import { PlacePicture } from './PlacePicture';

/** Type where the tool stood over each mark; what it says follows at once. */
export function ByHandDesk({
  media,
  marks,
  lies,
  unit,
  ...setup
}: ByHandSetup & {
  media: string;
  marks: readonly Point[];
  /** How the rig's files lie; null while nobody told. */
  lies: string | null;
  unit: LengthUnit;
}) {
  const [rows, setRows] = useState(() => firstMarks(marks, setup.toSheet, unit));
  const ready = useHydrated();
  const { sheet, workArea, toSheet } = setup;
  const said = useMemo(
    () => readByHand(rows, { sheet, workArea, toSheet }, unit),
    [rows, sheet, workArea, toSheet, unit],
  );
  const change = (i: number, field: MarkField, value: string): void =>
    setRows((all) => all.map((row, k) => (k === i ? { ...row, [field]: value } : row)));
  const another: MarkFields = { x: '', y: '', drivenX: '', drivenY: '' };
  return (
    <>
      <h1 className="answer" aria-live="polite">
        {said.kind === 'placed'
          ? said.answer
          : said.kind === 'refused'
            ? said.message
            : said.kind === 'wrong'
              ? 'Some figures need another look; they are marked below.'
              : 'Drive the tool over each printed mark and type where it stands.'}
      </h1>
      {said.kind === 'placed' &&
        said.placement.warnings.map((w) => (
          <p key={w.code} className="notice">
            {w.message}
          </p>
        ))}
      <div className="two work-first">
        <div className="stack">
          <section className="panel">
            <h2>Mark positions</h2>
            <p className="small-print">
              Figures in the cut file’s own axes: {lies ?? 'x right, y further, zero at the near left corner'}
              . One mark tells the shift, two the turn, three or four how the print was stretched. Leave out
              what was not driven to.
            </p>
            {rows.map((row, i) => (
              <MarkRow
                key={i}
                number={i + 1}
                row={row}
                errors={said.kind === 'wrong' ? (said.errors[i] ?? {}) : {}}
                unit={unit}
                ready={ready}
                onChange={(field, value) => change(i, field, value)}
              />
            ))}
            {rows.length < MOST_MARKS && (
              <Button variant="plain" disabled={!ready} onClick={() => setRows([...rows, another])}>
                Another mark
              </Button>
            )}
          </section>
          <p className="caution mb-0">
            Move the tool with the machine’s own keys, lifted, fingers clear of blade, carriage and rollers.
            The machine’s manual and trained staff come first.
          </p>
        </div>
        <div className="stack side">
          {said.kind === 'placed' && (
            <>
              <PlacePicture
                widthMm={sheet.widthMm}
                heightMm={sheet.heightMm}
                meant={said.meant}
                found={said.found}
              />
              <section className="panel">
                <h2>Cut where it lies</h2>
                <p>
                  Choose the cut file as it would be cut, corrected for {media} already if it has to be. It
                  comes back moved to where the print is.
                </p>
                <MoveFile undo={said.undo} />
                <p className="small-print mb-0 mt-2">
                  What the marks leave unexplained:{' '}
                  {said.placement.residualsMm.map((r) => lengthText(r, unit)).join(', ')}. The moved file is
                  for this sheet only.
                </p>
              </section>
            </>
          )}
        </div>
      </div>
    </>
  );
}
