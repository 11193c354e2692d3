'use client';

import { useState } from 'react';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import type { Point } from '@/core/geometry';
import { lengthRefusalText, lengthText, parseLength, wayText, type LengthUnit } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';
import { useHydrated } from '@/ui/useHydrated';

import { keepPlaceOfPrint, placePrints } from './actions';

export interface PlaceTold {
  readonly tray: string;
  readonly measured: number;
  readonly repeats: { readonly dxMm: number; readonly dyMm: number; readonly times: number } | null;
  readonly placement: { readonly xMm: number; readonly yMm: number } | null;
}

/** Where the print lies on its sheet: kept by tray and size, and moved against once it repeats. */
export function PrintPlace({
  job,
  mark,
  told,
  unit,
}: {
  job: { readonly id: string; readonly version: number };
  /** Its leading mark: where its middle should be, mm from the left and the near edge, and what it is called. */
  mark: { readonly name: string; readonly at: Point };
  told: PlaceTold;
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [typed, setTyped] = useState({ left: '', near: '' });
  const read = { left: parseLength(typed.left, unit), near: parseLength(typed.near, unit) };
  const keep = async () => {
    if (!read.left.ok || !read.near.ok) return 'Measure both, and type them.';
    const input = { jobId: job.id, fromLeftMm: read.left.value, fromNearMm: read.near.value };
    const done = await keeping(
      ['print place', input],
      (stamp) => keepPlaceOfPrint(input, stamp),
      job.version,
    );
    if (!done.ok) return whyNotDone(done);
    setTyped({ left: '', near: '' });
    return null;
  };
  const place = async (move: boolean) => {
    const done = await keeping(['placement', job.id, move, told.measured], (stamp) =>
      placePrints({ jobId: job.id, move }, stamp),
    );
    return done.ok ? null : whyNotDone(done);
  };
  const field = (side: 'left' | 'near', nominalMm: number) => {
    const wrong = typed[side].trim() !== '' && !read[side].ok ? read[side].refusal : null;
    return (
      <div className="col-6">
        <FormLabel htmlFor={`place-${side}`}>
          From the {side} edge, {unit}
        </FormLabel>
        <FormControl
          id={`place-${side}`}
          className="mono"
          inputMode="decimal"
          autoComplete="off"
          disabled={!ready}
          value={typed[side]}
          placeholder={lengthText(nominalMm, unit)}
          aria-invalid={wrong !== null}
          aria-describedby={wrong ? `place-${side}-say` : undefined}
          onChange={(event) => setTyped({ ...typed, [side]: event.target.value })}
        />
        {wrong && (
          <span id={`place-${side}-say`} className="field-error">
            {lengthRefusalText(wrong, unit)}
          </span>
        )}
      </div>
    );
  };
  const { repeats, placement, measured } = told;
  const ofTray = told.tray ? `tray “${told.tray}” at this size` : 'this printer at this size';
  const isNew =
    repeats && (repeats.dxMm !== -(placement?.xMm ?? 0) || repeats.dyMm !== -(placement?.yMm ?? 0));
  return (
    <details className="mt-3" open={Boolean(isNew)}>
      <summary>Where the print lies on its sheet</summary>
      <p className="small-print mt-2">
        By a rule, from the edges to the middle of the {mark.name} mark. Kept by tray and size: a shift that
        repeats can be moved against.
      </p>
      <div className="row g-2 mb-2">
        {field('left', mark.at.x)}
        {field('near', mark.at.y)}
      </div>
      <PendingButton words="Keep it" label="Keep it: where the print lies" onPress={keep} />
      {measured > 0 && (
        <p className="small-print mt-2 mb-0">
          {measured === 1 ? 'One print' : `${measured} prints`} of {ofTray} measured.{' '}
          {repeats
            ? `They lie ${wayText({ x: repeats.dxMm, y: repeats.dyMm }, unit)} of where they should, each time.`
            : 'Nothing repeats yet.'}
        </p>
      )}
      {placement && (
        <p className="mt-2 mb-2">
          Print files of {ofTray} are moved {wayText({ x: placement.xMm, y: placement.yMm }, unit)} when they
          are frozen.
        </p>
      )}
      <div className="d-flex gap-2 flex-wrap mt-2">
        {isNew && (
          <PendingButton
            main
            words={`Move print files ${wayText({ x: -repeats.dxMm, y: -repeats.dyMm }, unit)}`}
            onPress={() => place(true)}
          />
        )}
        {placement && <PendingButton words="Stop moving print files" onPress={() => place(false)} />}
      </div>
    </details>
  );
}
