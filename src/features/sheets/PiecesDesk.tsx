'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { LINE_KINDS, type LineKind } from '@/core/sheetJob';
import { COARSE_DPI } from '@/core/artwork/coarse';
import {
  fieldLength,
  fixed,
  lengthRefusalText,
  lengthText,
  parseLength,
  type LengthUnit,
} from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { anew, useDraft, type PieceLaid } from './DraftWork';
import { KIND_WORDS } from './kindWords';
import { Typed } from './Typed';

/** What is said of a piece beside what can be changed here. */
export interface PieceTold {
  readonly name: string;
  /** How large one is, bleed and all. */
  readonly widthMm: number;
  readonly heightMm: number;
  /** Pixels an inch of its picture at that size. */
  readonly dpi: number;
  /** The piece whose line it has. */
  readonly lineOf: string | null;
}

/** The pieces of artwork of a draft: how many of each, and what is done to their lines. */
export function PiecesDesk({
  jobId,
  told,
  neededMm,
  unit,
}: {
  jobId: string;
  told: Readonly<Record<string, PieceTold>>;
  /** The misregistration that the rig needs hidden; null where it was never measured. */
  neededMm: number | null;
  unit: LengthUnit;
}) {
  const { laid, pending, change } = useDraft();
  const least = Math.min(...laid.pieces.filter((p) => p.bleedMm > 0).map((p) => p.bleedMm));
  return (
    <section className="panel" aria-busy={pending}>
      <h2>What is on it</h2>
      {laid.pieces.map((piece) => (
        <PieceFields
          key={piece.id}
          alone={laid.pieces.length === 1}
          {...{ jobId, piece, unit }}
          told={told[piece.id]!}
          onChange={(by) =>
            change(anew(laid, { pieces: laid.pieces.map((p) => (p.id === piece.id ? { ...p, ...by } : p)) }))
          }
        />
      ))}
      {neededMm !== null && (
        <p className="small-print mt-2">
          Bleed needed on this rig: {lengthText(neededMm, unit)}.{' '}
          {least < neededMm &&
            (laid.pieces.length === 1 ? 'This bleed is less than that.' : 'A bleed here is less than that.')}
        </p>
      )}
      <Link className="btn btn-plain" href={`/jobs/sheets/${jobId}/pieces`}>
        Add artwork
      </Link>
    </section>
  );
}

function PieceFields({
  jobId,
  piece,
  alone,
  told,
  unit,
  onChange,
}: {
  jobId: string;
  piece: PieceLaid;
  alone: boolean;
  told: PieceTold;
  unit: LengthUnit;
  onChange: (by: Partial<PieceLaid>) => void;
}) {
  const ready = useHydrated();
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const { id, copies, bleedMm, kind, second } = piece;
  /** A length that was typed; said by its field when it is none. */
  const length = (field: string, text: string, take: (mm: number) => void, now: number): void => {
    const read = parseLength(text, unit);
    setErrors({ ...errors, [field]: read.ok ? '' : lengthRefusalText(read.refusal, unit) });
    if (read.ok && Math.abs(read.value - now) > 1e-6) take(read.value);
  };
  const many = (text: string): void => {
    const number = Number(text);
    const sound = text.trim() === '' || (Number.isInteger(number) && number >= (alone ? 1 : 0));
    setErrors({ ...errors, copies: sound ? '' : 'A whole number, or nothing to fill the sheet.' });
    const next = text.trim() === '' ? null : number;
    if (sound && next !== copies) onChange({ copies: next });
  };
  const field = { disabled: !ready };
  return (
    <fieldset className="mb-3">
      <legend className="fs-6 mb-1">
        <strong>{id}</strong> {told.name}{' '}
        <span className="soft">
          {lengthText(told.widthMm, unit)} × {lengthText(told.heightMm, unit)}
          {told.lineOf !== null && `, with the line of ${told.lineOf}`}
          {copies === 0 && ', left out'}
        </span>
      </legend>
      {told.dpi < COARSE_DPI && (
        <p className="small-print mb-1">
          Its picture has {fixed(told.dpi, 0)} pixels an inch at this size: fewer than {COARSE_DPI} print
          coarsely. Make it smaller, or find a larger picture.
        </p>
      )}
      <div className="row g-2 align-items-end">
        <Typed
          {...field}
          id={`copies-${id}`}
          label="Copies"
          value={copies === null ? '' : String(copies)}
          hint="fill the sheet"
          error={errors.copies}
          onTyped={many}
        />
        <Typed
          {...field}
          id={`bleed-${id}`}
          label={`Bleed, ${unit}`}
          value={fieldLength(bleedMm, unit)}
          error={errors.bleed}
          onTyped={(text) => length('bleed', text, (mm) => onChange({ bleedMm: mm }), bleedMm)}
        />
        <Kinds
          {...field}
          id={`kind-${id}`}
          label="Cut kind"
          kind={kind}
          onKind={(next) => onChange({ kind: next })}
        />
        <Typed
          {...field}
          id={`second-${id}`}
          label={`Second line, ${unit}`}
          value={second ? fieldLength(second.byMm, unit) : ''}
          hint="none"
          error={errors.second}
          onTyped={(text) =>
            text.trim() === ''
              ? second && onChange({ second: null })
              : length(
                  'second',
                  text,
                  (byMm) => onChange({ second: { byMm, kind: second?.kind ?? 'cut-through' } }),
                  second?.byMm ?? 0,
                )
          }
        />
        {second && (
          <Kinds
            {...field}
            id={`second-kind-${id}`}
            label="Cut kind of the second line"
            kind={second.kind}
            onKind={(next) => onChange({ second: { ...second, kind: next } })}
          />
        )}
      </div>
      <div className="d-flex gap-3 mt-1 align-items-center">
        <Link href={`/jobs/sheets/${jobId}/pieces/${id}`}>Change its line</Link>
        {!alone && copies !== 0 && (
          <Button variant="link" className="p-0" disabled={!ready} onClick={() => onChange({ copies: 0 })}>
            Leave it out
          </Button>
        )}
      </div>
    </fieldset>
  );
}

function Kinds({
  id,
  label,
  kind,
  disabled,
  onKind,
}: {
  id: string;
  label: string;
  kind: LineKind;
  disabled: boolean;
  onKind: (kind: LineKind) => void;
}) {
  return (
    <div className="col-6">
      <FormLabel htmlFor={`sheet-${id}`}>{label}</FormLabel>
      <FormSelect
        id={`sheet-${id}`}
        disabled={disabled}
        value={kind}
        onChange={(event) => onKind(event.target.value as LineKind)}
      >
        {LINE_KINDS.map((k) => (
          <option key={k} value={k}>
            {KIND_WORDS[k]}
          </option>
        ))}
      </FormSelect>
    </div>
  );
}
