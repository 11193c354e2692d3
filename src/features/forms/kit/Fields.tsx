'use client';

import type { ReactNode } from 'react';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { KeepRow } from '../KeepRow';

import { AskRow } from './AskRow';
import type { FormState } from './useKeptForm';

interface FieldProps<K extends string> {
  readonly form: Pick<FormState<K>, 'typed' | 'errors' | 'set'>;
  readonly name: K;
  /** Its unit stands in it: “Width, mm”. */
  readonly label: ReactNode;
  /** Two forms of a page have ids of their own. */
  readonly id: string;
  readonly width?: string;
}

const KEYPADS = { decimal: 'decimal', whole: 'numeric', fractions: 'text' } as const;

/** A labelled field, and under it its hint or what is wrong. */
export function Field<K extends string>({
  form,
  name,
  label,
  id,
  hint = '',
  width = 'col-6',
  figures = false,
  ...control
}: FieldProps<K> & {
  readonly hint?: string | undefined;
  /** Figures: letters of one width, and the keypad of a phone, which has no fractions. */
  readonly figures?: boolean | 'whole' | 'fractions';
  readonly maxLength?: number;
  readonly placeholder?: string;
  readonly as?: 'textarea';
  readonly rows?: number;
}) {
  const error = form.errors[name];
  const say = error ?? hint;
  return (
    <div className={width}>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormControl
        id={id}
        className={figures ? 'mono' : ''}
        {...(figures ? { inputMode: KEYPADS[figures === true ? 'decimal' : figures] } : {})}
        autoComplete="off"
        value={form.typed[name]}
        aria-invalid={error !== undefined}
        aria-describedby={say ? `${id}-say` : undefined}
        onChange={(event) => form.set(name, event.target.value)}
        {...control}
      />
      {say && (
        <span id={`${id}-say`} className={error ? 'field-error' : 'small-print'}>
          {say}
        </span>
      )}
    </div>
  );
}

/** A labelled choice; without words an option is its value. */
export function Choice<K extends string>({
  form,
  name,
  label,
  id,
  options,
  width = 'col-6',
}: FieldProps<K> & { readonly options: readonly (string | readonly [string, ReactNode])[] }) {
  const error = form.errors[name];
  return (
    <div className={width}>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormSelect
        id={id}
        value={form.typed[name]}
        aria-invalid={error !== undefined}
        onChange={(event) => form.set(name, event.target.value)}
      >
        {options.map((option) => {
          const [value, words] = typeof option === 'string' ? [option, option] : option;
          return (
            <option key={value} value={value}>
              {words}
            </option>
          );
        })}
      </FormSelect>
      {error && <span className="field-error">{error}</span>}
    </div>
  );
}

/** The form itself: its fields, what is asked about a figure, the button, and what came of it. */
export function KeptForm<K extends PropertyKey>({
  form,
  words,
  main = false,
  className,
  label,
  children,
}: {
  readonly form: FormState<K>;
  readonly words: string;
  /** Whether keeping it is the one main action of the page. */
  readonly main?: boolean;
  readonly className?: string;
  readonly label?: string;
  readonly children: ReactNode;
}) {
  return (
    <form
      noValidate
      className={className}
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        form.submit();
      }}
    >
      <fieldset disabled={!form.ready} style={{ display: 'contents' }}>
        {children}
        <AskRow question={form.question} onAnswer={form.answer} />
        <KeepRow words={words} main={main} pending={form.pending} said={form.said} />
      </fieldset>
    </form>
  );
}
