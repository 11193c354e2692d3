'use client';

import Button from 'react-bootstrap/Button';
import { Plus, Trash2 } from 'lucide-react';
import { useFieldArray, type UseFormReturn } from 'react-hook-form';

import { DIRECTIONS_OF_KIND, UNITS_OF_KIND, type SettingKind } from '@/core/correction';
import type { LengthUnit } from '@/core/units';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import { DIRECTION_WORDS } from '@/ui/words/settingWords';

import { errorAt, Field, Select } from './ShopField';
import { emptySetting, settingOfKind } from './shopFields';
import type { ShopFields } from './shopTypes';

const MOST_SETTINGS = 6;

/** The figures the machine takes, and what +1 on each does to the cut. */
export function SettingsPanel({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const list = useFieldArray({ control: form.control, name: 'settings', keyName: 'key' });
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">What can be changed</legend>
      <div className="row g-2 mb-3">
        <Select
          form={form}
          name="changeable"
          label="To bring this rig in I can change"
          options={CHANGES}
          width="full"
        />
      </div>
      <p className="h2 fs-6 fw-bold">Figures the machine takes</p>
      <p className="small-print">
        The settings as the machine shows them now. Which way each moves the cut: hold a sheet printed side
        up, the bob towards you. None? Remove them: then the cut file carries the correction.
      </p>
      {list.fields.map((field, i) => (
        <Setting key={field.key} form={form} unit={unit} index={i} onRemove={() => list.remove(i)} />
      ))}
      {errorAt(form, 'settings') && <span className="field-error">{errorAt(form, 'settings')}</span>}
      {list.fields.length < MOST_SETTINGS && (
        <Button
          variant="plain"
          onClick={() => list.append(emptySetting(list.fields.length === 0 ? 'Offset X' : ''))}
        >
          <Plus size={18} aria-hidden /> Add a setting
        </Button>
      )}
    </fieldset>
  );
}

function Setting({
  form,
  unit,
  index,
  onRemove,
}: {
  form: UseFormReturn<ShopFields>;
  unit: LengthUnit;
  index: number;
  onRemove: () => void;
}) {
  const at = <K extends string>(name: K): `settings.${number}.${K}` => `settings.${index}.${name}`;
  const name = form.watch(at('name')) || `setting ${index + 1}`;
  const kind = form.watch(at('kind'));
  // Once it is kept for each medium, the media’s own pages tell what it shows.
  const eachMedium = form.watch(at('kept')) === 'per-medium' && form.watch(at('id')) !== undefined;
  const chooseKind = (next: SettingKind): void => {
    const usual = settingOfKind(next);
    form.setValue(at('unit'), usual.unit);
    form.setValue(at('direction'), usual.direction);
    form.setValue(at('step'), usual.step);
  };
  return (
    <div className="border-bottom pb-3 mb-3" role="group" aria-label={name}>
      <div className="row g-2">
        <Field form={form} name={at('name')} label="Setting" hint="as the machine calls it" wide />
        <Select form={form} name={at('kind')} label="What it does" options={KINDS} onChoose={chooseKind} />
        <Select
          key={`direction ${kind}`}
          form={form}
          name={at('direction')}
          label={kind === 'length' ? 'A longer figure makes the cut' : '+1 makes the cut go'}
          options={[
            ...DIRECTIONS_OF_KIND[kind].map((d) => [d, DIRECTION_WORDS[d]] as const),
            ['unknown', 'not known yet'],
          ]}
        />
        <Select
          key={`unit ${kind}`}
          form={form}
          name={at('unit')}
          label="Unit"
          options={UNITS_OF_KIND[kind].map((u) => [u, UNIT_WORDS[u]])}
        />
        <Select form={form} name={at('on')} label="Typed into" options={ROLES} />
        <Select form={form} name={at('kept')} label="The machine keeps" options={KEEPS} />
        {!eachMedium && <Field form={form} name={at('value')} label="Now" wide />}
        <Field form={form} name={at('step')} label="Step" wide />
        {kind === 'length' && (
          <Field
            form={form}
            name={at('nominalMm')}
            label={`Commanded, ${unit}`}
            hint="what it is compared with"
          />
        )}
        <Field form={form} name={at('min')} label="Lowest" hint="if any" wide />
        <Field form={form} name={at('max')} label="Highest" hint="if any" wide />
        {kind !== 'offset' && (
          <>
            <Field
              form={form}
              name={at('anchorXMm')}
              label={`Stays put: right, ${unit}`}
              hint="from the left edge"
            />
            <Field
              form={form}
              name={at('anchorYMm')}
              label={`Stays put: far, ${unit}`}
              hint="from the near edge"
            />
          </>
        )}
        <Select
          form={form}
          name={at('display')}
          label="The machine shows it as"
          options={DISPLAYS}
          width="full"
        />
      </div>
      <MachineWordsFields form={form} index={index} />
      <Button variant="plain" className="mt-2" onClick={onRemove} aria-label={`Remove ${name}`}>
        <Trash2 size={18} aria-hidden /> Remove
      </Button>
    </div>
  );
}

/** What the machine itself calls it, and how to get there: whoever types it reads this on the card. */
function MachineWordsFields({ form, index }: { form: UseFormReturn<ShopFields>; index: number }) {
  const at = <K extends string>(name: K): `settings.${number}.words.${K}` =>
    `settings.${index}.words.${name}`;
  return (
    <details className="working mt-2">
      <summary>Where it is on the machine</summary>
      <div className="row g-2">
        <Field form={form} name={at('there')} label="Its name there" wide />
        <Field form={form} name={at('keys')} label="Menu or keys" wide />
        <Field form={form} name={at('state')} label="State it has to be in" wide />
        <Field form={form} name={at('notFirst')} label="What not to press first" wide />
        <Field form={form} name={at('after')} label="Afterwards" hint="keep it, back online" wide />
      </div>
    </details>
  );
}

const ROLES = [
  ['cutter', 'the cutter'],
  ['printer', 'the printer'],
] as const;
const KEEPS = [
  ['one', 'one figure for all media'],
  ['per-medium', 'one for each medium'],
] as const;
const CHANGES = [
  ['settings-and-file', 'the machine’s figures and the cut file'],
  ['settings', 'only the machine’s figures'],
  ['file', 'only the cut file'],
  ['machine-page', 'only picks on the machine’s own calibration page'],
  ['nothing', 'nothing'],
] as const;
const KINDS = [
  ['offset', 'moves the cut'],
  ['scale', 'stretches it by a share'],
  ['length', 'stretches it by a measured length'],
  ['turn', 'turns it'],
] as const;
const DISPLAYS = [
  ['signed', 'one figure, minus included'],
  ['sign-and-size', 'sign and size apart'],
] as const;
