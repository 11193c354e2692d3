'use client';

import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import type { UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { PAPERS } from '@/ui/words/sizeWords';

import { Field, Select } from './ShopField';
import { choosePaper } from './shopFields';
import type { ShopFields } from './shopTypes';

export interface EquipmentChoice {
  readonly tools: readonly { readonly id: string; readonly name: string }[];
  readonly mats: readonly { readonly id: string; readonly name: string }[];
}

interface PanelProps {
  readonly form: UseFormReturn<ShopFields>;
  readonly unit: LengthUnit;
}

export function MachinesPanel({ form }: Pick<PanelProps, 'form'>) {
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">The rig</legend>
      <div className="row g-3">
        <Field form={form} name="name" label="Name" hint="as you call it at the machine" wide />
        <div className="col-sm-6" />
        <Field form={form} name="printer" label="Printer" wide />
        <Field
          form={form}
          name="cutter"
          label="Cutter"
          hint="the same name when one machine does both"
          wide
        />
      </div>
    </fieldset>
  );
}

export function MediumPanel({
  form,
  equipment,
}: Pick<PanelProps, 'form'> & { readonly equipment: EquipmentChoice | undefined }) {
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">What is on it</legend>
      <div className="row g-3">
        <Field
          form={form}
          name="label"
          label="A word of your own"
          hint="to tell two of the same apart; mostly empty"
          wide
        />
        <Select form={form} name="grip" label="Mat grip" options={HELD} />
        <div className="col-12">
          <FormCheckInput id="mirrored" {...form.register('mirrored')} />{' '}
          <label htmlFor="mirrored">
            printed reversed: seen through it, or pressed on the other way round
          </label>
        </div>
        {equipment && equipment.tools.length > 0 && (
          <Select
            form={form}
            name="toolId"
            label="Cut with"
            options={[['', 'the cutter’s only tool'], ...equipment.tools.map((t) => [t.id, t.name] as const)]}
          />
        )}
        {equipment && equipment.mats.length > 0 && (
          <Select
            form={form}
            name="matId"
            label="On the mat"
            options={[['', 'none'], ...equipment.mats.map((m) => [m.id, m.name] as const)]}
          />
        )}
      </div>
    </fieldset>
  );
}

/** The medium by its name and kind: what is asked first of another one. */
export function MediumFirst({ form }: Pick<PanelProps, 'form'>) {
  return (
    <div className="row g-3">
      <Field
        form={form}
        name="media"
        label="Media"
        hint="a calibration belongs to rig, media and size"
        wide
      />
      <div className="col-sm-6">
        <FormLabel htmlFor="mediaClass">Kind of media</FormLabel>
        <FormSelect id="mediaClass" {...form.register('mediaClass')}>
          <option value="film">film or vinyl</option>
          <option value="paper">paper or card</option>
          <option value="transfer">heat-transfer film</option>
        </FormSelect>
        <span className="small-print">what is assumed of its drift until the log knows better</span>
      </div>
    </div>
  );
}

const HELD = [
  ['', 'none, or not noted'],
  ['light', 'light'],
  ['standard', 'normal'],
  ['strong', 'strong'],
] as const;

export function Sheet({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">Sheet and work area, {unit === 'mm' ? 'mm' : 'inch'}</legend>
      <p className="small-print">
        The work area is what can be printed and cut, not the media’s overall width. Lengths may be typed as
        12.5, 1/16 in or 210 mm.
      </p>
      <ButtonGroup aria-label="Common sheets" className="flex-wrap mb-3">
        {PAPERS.map((p) => (
          <Button key={p.name} variant="plain" onClick={() => choosePaper(form, p, unit)}>
            {p.name}
          </Button>
        ))}
      </ButtonGroup>
      <div className="row g-3">
        <Field form={form} name="sheetWidthMm" label="Sheet width" hint="across the media" />
        <Field form={form} name="sheetHeightMm" label="Sheet height" hint="along the feed" />
        <Field
          form={form}
          name="toleranceMm"
          label="Allowed miss"
          hint="what the tightest job’s bleed or border hides"
        />
        <Field form={form} name="marginLeftMm" label="Left margin" />
        <Field form={form} name="marginNearMm" label="Near margin" hint="at the edge the bob points to" />
        <Field form={form} name="areaWidthMm" label="Work area width" />
        <Field form={form} name="areaHeightMm" label="Work area height" />
        <Field
          form={form}
          name="driverWidthMm"
          label="Driver’s page width"
          hint="as the printer’s driver is set"
        />
        <Field form={form} name="driverHeightMm" label="Driver’s page height" hint="empty: not noted" />
      </div>
    </fieldset>
  );
}
