import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import type { LengthUnit } from '@/core/units';

import { MARK_FIELDS, type MarkField, type MarkFields } from './byHand.view';

const LABELS: Readonly<Record<MarkField, string>> = {
  x: 'in the file, x',
  y: 'y',
  drivenX: 'the tool stood at x',
  drivenY: 'y',
};

const SAID: Readonly<Record<MarkField, string>> = {
  x: 'x in the file',
  y: 'y in the file',
  drivenX: 'x of the tool',
  drivenY: 'y of the tool',
};

/** A mark: where it is in the file and where the tool was driven to. */
export function MarkRow({
  number,
  row,
  errors,
  unit,
  ready,
  onChange,
}: {
  number: number;
  row: MarkFields;
  errors: Partial<Record<MarkField, string>>;
  unit: LengthUnit;
  ready: boolean;
  onChange: (field: MarkField, value: string) => void;
}) {
  return (
    <fieldset className="mb-3">
      <legend className="fs-6 fw-bold mb-1">Mark {number}</legend>
      <div className="row g-2">
        {MARK_FIELDS.map((name) => {
          const id = `mark-${number}-${name}`;
          return (
            <div className="col-6 col-md-3" key={name}>
              <FormLabel htmlFor={id} className="small-print mb-1">
                {LABELS[name]}, {unit}
              </FormLabel>
              <FormControl
                id={id}
                className="mono"
                inputMode="decimal"
                autoComplete="off"
                disabled={!ready}
                aria-label={`Mark ${number}, ${SAID[name]}, ${unit}`}
                aria-invalid={errors[name] !== undefined}
                aria-describedby={errors[name] ? `${id}-say` : undefined}
                value={row[name]}
                onChange={(event) => onChange(name, event.target.value)}
              />
              {errors[name] && (
                <span id={`${id}-say`} className="field-error">
                  {errors[name]}
                </span>
              )}
            </div>
          );
        })}
      </div>
    </fieldset>
  );
}
