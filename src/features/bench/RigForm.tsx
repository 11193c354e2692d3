'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition, type ReactNode } from 'react';
import { useFieldArray, useForm, type FieldPath, type UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { saveRig } from './actions';
import { emptySetting, formField, PAPERS, readRigForm, shownLength, type RigFields } from './rigForm';

interface RigFormProps {
  readonly rigId: string | null;
  readonly version: number;
  readonly initial: RigFields;
  readonly unit: LengthUnit;
}

/** Adds or changes a rig: who prints, who cuts, on what, where, and which figures the machine takes. */
export function RigForm(props: RigFormProps) {
  const [base, setBase] = useState(props);
  const [savedVersion, setSavedVersion] = useState<number | null>(null);
  // What was saved here is laid out afresh. A refresh for any other reason leaves what is being typed alone,
  // and the version it started from: a save over somebody else's is then refused, not lost.
  if (props.version === savedVersion && base.version !== savedVersion) setBase(props);
  else if (props.unit !== base.unit) setBase({ ...props, version: base.version });
  return (
    <Editor
      key={`${base.version} ${base.unit}`}
      {...base}
      saved={base.version === savedVersion ? 'Saved.' : ''}
      onSaved={() => setSavedVersion(base.version + 1)}
    />
  );
}

function Editor({
  rigId,
  version,
  initial,
  unit,
  saved,
  onSaved,
}: RigFormProps & { readonly saved: string; readonly onSaved: () => void }) {
  const form = useForm<RigFields>({ defaultValues: initial });
  const router = useRouter();
  const ready = useHydrated();
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');

  const submit = form.handleSubmit((fields) => {
    const read = readRigForm(fields, unit);
    if (Object.keys(read.errors).length > 0) {
      showErrors(form, read.errors);
      setMessage('Some figures need another look; they are marked.');
      return;
    }
    start(async () => {
      const result = await saveRig(rigId, version, read.input);
      if (result.ok) {
        if (rigId === null) router.push('/');
        onSaved();
        setMessage('');
        router.refresh();
        return;
      }
      setMessage(result.message);
      showErrors(form, result.fields);
    });
  });

  return (
    <form onSubmit={submit} noValidate>
      <fieldset disabled={!ready} style={{ display: 'contents' }}>
        <div className="two">
          <div className="stack">
            <fieldset className="panel">
              <legend className="h2 fs-6 fw-bold">The rig</legend>
              <div className="row g-3">
                <Field form={form} name="name" label="Name" hint="as you call it at the machine" wide />
                <Field
                  form={form}
                  name="media"
                  label="Media"
                  hint="a calibration belongs to rig and media"
                  wide
                />
                <Field form={form} name="printer" label="Printer" wide />
                <Field form={form} name="cutter" label="Cutter" wide />
              </div>
            </fieldset>
            <Sheet form={form} unit={unit} />
          </div>
          <div className="stack side">
            <Settings form={form} />
          </div>
        </div>
        <div className="d-flex gap-3 align-items-center mt-3">
          <button type="submit" className="btn btn-main px-4" disabled={pending}>
            {rigId === null ? 'Add this rig' : 'Save'}
          </button>
          <button type="button" className="btn btn-plain" onClick={() => router.push('/')}>
            Back to the bench
          </button>
          <span role="status" className={message ? 'field-error' : undefined}>
            {message || saved}
          </span>
        </div>
      </fieldset>
    </form>
  );
}

function showErrors(form: UseFormReturn<RigFields>, errors: Readonly<Record<string, string>>): void {
  const names = Object.keys(errors).map(formField);
  Object.entries(errors).forEach(([path, text]) =>
    form.setError(formField(path) as FieldPath<RigFields>, { message: text }),
  );
  if (names[0]) form.setFocus(names[0] as FieldPath<RigFields>);
}

/** The message of a field by its dotted path. */
function errorAt(form: UseFormReturn<RigFields>, path: string): string | undefined {
  return form.getFieldState(path as FieldPath<RigFields>, form.formState).error?.message;
}

/** The value a field opens with, so that the page shows it before its own code runs. */
const shownAt = (form: UseFormReturn<RigFields>, name: FieldPath<RigFields>): string =>
  String(form.getValues(name) ?? '');

function Field({
  form,
  name,
  label,
  hint,
  wide = false,
}: {
  form: UseFormReturn<RigFields>;
  name: FieldPath<RigFields>;
  label: string;
  hint?: string;
  wide?: boolean;
}) {
  const id = name.replaceAll('.', '-');
  const error = errorAt(form, name);
  return (
    <div className={wide ? 'col-sm-6' : 'col-6 col-lg-4'}>
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className="form-control"
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

function Sheet({ form, unit }: { form: UseFormReturn<RigFields>; unit: LengthUnit }) {
  const choose = (name: string): void => {
    const paper = PAPERS.find((p) => p.name === name);
    if (!paper) return;
    const set = (field: FieldPath<RigFields>, mm: number): void =>
      form.setValue(field, shownLength(mm, unit), { shouldDirty: true });
    set('sheetWidth', paper.widthMm);
    set('sheetHeight', paper.heightMm);
    set('marginLeft', 10);
    set('marginNear', 15);
    set('areaWidth', paper.widthMm - 20);
    set('areaHeight', paper.heightMm - 30);
  };
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">Sheet and work area, {unit === 'mm' ? 'mm' : 'inch'}</legend>
      <p className="small-print">
        The work area is what can be printed and cut, not the media’s overall width. Lengths may be typed as
        12.5, 1/16 in or 210 mm.
      </p>
      <div className="btn-group flex-wrap mb-3" role="group" aria-label="Common sheets">
        {PAPERS.map((p) => (
          <button key={p.name} type="button" className="btn btn-plain" onClick={() => choose(p.name)}>
            {p.name}
          </button>
        ))}
      </div>
      <div className="row g-3">
        <Field form={form} name="sheetWidth" label="Sheet width" hint="across the media" />
        <Field form={form} name="sheetHeight" label="Sheet height" hint="along the feed" />
        <Field
          form={form}
          name="tolerance"
          label="Allowed miss"
          hint="what the tightest job’s bleed or border hides"
        />
        <Field form={form} name="marginLeft" label="Left margin" />
        <Field form={form} name="marginNear" label="Near margin" hint="at the edge printed first" />
        <Field form={form} name="areaWidth" label="Work area width" />
        <Field form={form} name="areaHeight" label="Work area height" />
      </div>
    </fieldset>
  );
}

function Settings({ form }: { form: UseFormReturn<RigFields> }) {
  const list = useFieldArray({ control: form.control, name: 'settings', keyName: 'key' });
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">Figures the machine takes</legend>
      <p className="small-print">
        The offset settings of the cutter as they are now. None? Remove them: then the cut file carries the
        correction.
      </p>
      {list.fields.map((field, i) => (
        <Setting key={field.key} form={form} index={i} onRemove={() => list.remove(i)} />
      ))}
      {errorAt(form, 'settings') && <span className="field-error">{errorAt(form, 'settings')}</span>}
      {list.fields.length < 6 && (
        <button
          type="button"
          className="btn btn-plain"
          onClick={() => list.append(emptySetting(list.fields.length === 0 ? 'Offset X' : '', 'right'))}
        >
          <Plus size={18} aria-hidden /> Add a setting
        </button>
      )}
    </fieldset>
  );
}

function Setting({
  form,
  index,
  onRemove,
}: {
  form: UseFormReturn<RigFields>;
  index: number;
  onRemove: () => void;
}) {
  const at = <K extends string>(name: K): `settings.${number}.${K}` => `settings.${index}.${name}`;
  const name = form.watch(at('name')) || `setting ${index + 1}`;
  return (
    <div className="border-bottom pb-3 mb-3" role="group" aria-label={name}>
      <div className="row g-2">
        <Field form={form} name={at('name')} label="Setting" hint="as the machine calls it" wide />
        <Select form={form} name={at('direction')} label="+1 moves the cut" options={DIRECTIONS} />
        <Field form={form} name={at('value')} label="Now" />
        <Field form={form} name={at('step')} label="Step" />
        <Select form={form} name={at('unit')} label="Unit" options={UNITS} width="third" />
        <Field form={form} name={at('min')} label="Lowest" hint="if any" />
        <Field form={form} name={at('max')} label="Highest" hint="if any" />
        <Select
          form={form}
          name={at('display')}
          label="The machine shows it as"
          options={DISPLAYS}
          width="full"
        />
      </div>
      <button type="button" className="btn btn-plain mt-2" onClick={onRemove} aria-label={`Remove ${name}`}>
        <Trash2 size={18} aria-hidden /> Remove
      </button>
    </div>
  );
}

const DIRECTIONS = [
  ['right', 'right'],
  ['left', 'left'],
  ['further', 'further along'],
  ['back', 'back'],
] as const;
const UNITS = [
  ['mm', 'mm'],
  ['in', 'inch'],
] as const;
const DISPLAYS = [
  ['signed', 'one figure, minus included'],
  ['sign-and-size', 'sign and size apart'],
] as const;

const WIDTHS = { full: 'col-12', half: 'col-sm-6', third: 'col-6 col-lg-4' } as const;

function Select({
  form,
  name,
  label,
  options,
  width = 'half',
}: {
  form: UseFormReturn<RigFields>;
  name: FieldPath<RigFields>;
  label: string;
  options: readonly (readonly [string, ReactNode])[];
  width?: keyof typeof WIDTHS;
}) {
  const id = name.replaceAll('.', '-');
  return (
    <div className={WIDTHS[width]}>
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      <select id={id} className="form-select" defaultValue={shownAt(form, name)} {...form.register(name)}>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}
