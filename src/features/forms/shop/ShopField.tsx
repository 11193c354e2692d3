'use client';

import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import type { ReactNode } from 'react';
import type { FieldPath, UseFormReturn } from 'react-hook-form';

import type { ShopFields } from './shopTypes';

/** The message of a field by its dotted path. */
export function errorAt(form: UseFormReturn<ShopFields>, path: string): string | undefined {
  return form.getFieldState(path as FieldPath<ShopFields>, form.formState).error?.message;
}

/** The value a field opens with, so that the page shows it before its own code runs. */
const shownAt = (form: UseFormReturn<ShopFields>, name: FieldPath<ShopFields>): string =>
  String(form.getValues(name) ?? '');

/** A labelled text field with its hint, or what is wrong with it. */
export function Field({
  form,
  name,
  label,
  hint,
  wide = false,
}: {
  form: UseFormReturn<ShopFields>;
  name: FieldPath<ShopFields>;
  label: string;
  hint?: string;
  wide?: boolean;
}) {
  const id = name.replaceAll(/[. ]/g, '-');
  const error = errorAt(form, name);
  return (
    <div className={wide ? 'col-sm-6' : 'col-6 col-lg-4'}>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormControl
        id={id}
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={`${id}-say`}
        defaultValue={shownAt(form, name)}
        {...form.register(name)}
      />
      <span id={`${id}-say`} className={error ? 'field-error' : 'small-print'}>
        {error ?? hint ?? ''}
      </span>
    </div>
  );
}

const WIDTHS = { full: 'col-12', half: 'col-sm-6', third: 'col-6 col-lg-4' } as const;

/** A labelled choice. */
export function Select({
  form,
  name,
  label,
  options,
  width = 'half',
  onChoose,
}: {
  form: UseFormReturn<ShopFields>;
  name: FieldPath<ShopFields>;
  label: string;
  options: readonly (readonly [string, ReactNode])[];
  width?: keyof typeof WIDTHS;
  /** Called with what was chosen, after the form knows it. */
  onChoose?: (value: never) => void;
}) {
  const id = name.replaceAll(/[. ]/g, '-');
  return (
    <div className={WIDTHS[width]}>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormSelect
        id={id}
        defaultValue={shownAt(form, name)}
        {...form.register(name, {
          onChange: (e: { target: { value: string } }) => onChoose?.(e.target.value as never),
        })}
      >
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </FormSelect>
    </div>
  );
}
