'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import type { UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { useLater } from '@/ui/useLater';

import { Field, Select } from './ShopField';
import type { ShopFields } from './shopTypes';

/** Fetched once the form can be seen. */
const loadAdvice = () => import('./MarkAdvice');

/** The marks this rig's cutter reads: it reads no others. Drawn as they will be printed, with what will go wrong. */
export function MarksPanel({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const marks = form.watch('marks');
  const later = useLater(loadAdvice);
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">Registration marks</legend>
      <p className="small-print">
        The marks this cutter reads, from its manual; it reads no others. They are printed on proof sheets
        too.
      </p>
      <div className="row g-2">
        <Select form={form} name="marks.count" label="Marks on a sheet" options={COUNTS} />
        {marks.count !== '0' && (
          <>
            <Select form={form} name="marks.laidBy" label="Laid by" options={LAID} />
            {marks.count === '4' && (
              <div className="col-12">
                <FormCheckInput id="marks-frame" {...form.register('marks.frame')} />{' '}
                <label htmlFor="marks-frame">one closed frame round the work instead of four marks</label>
              </div>
            )}
            <Select form={form} name="marks.shape" label="Shape" options={SHAPES} />
            <Field form={form} name="marks.sizeMm" label={`Size, ${unit}`} />
            <Field form={form} name="marks.lineMm" label={`Line width, ${unit}`} hint="where it has lines" />
            <div className="col-6 col-lg-4">
              <FormLabel htmlFor="marks-colour">Colour</FormLabel>
              <FormControl
                id="marks-colour"
                type="color"
                className="form-control-color w-100"
                {...form.register('marks.colour')}
              />
            </div>
            <Field form={form} name="marks.insetLeftMm" label="Inset left" hint="edge to centre" />
            <Field form={form} name="marks.insetRightMm" label="Inset right" />
            <Field form={form} name="marks.insetNearMm" label="Inset near" />
            <Field form={form} name="marks.insetFarMm" label="Inset far" />
            <Field form={form} name="marks.clearMm" label="Clear zone" hint="round each mark" />
            <Select form={form} name="marks.leading" label="Leading mark" options={LEADING} />
            <Select form={form} name="marks.leadSign" label="It is told by" options={SIGNS} />
            {marks.count === '4' && (
              <Field
                form={form}
                name="marks.everyMm"
                label="More marks every"
                hint="along both sides; empty: none"
              />
            )}
            <details className="working col-12">
              <summary>A side or a mark that differs</summary>
              <div className="row g-2">
                <Field
                  form={form}
                  name="marks.clearSidesMm.left"
                  label="Clear on the left"
                  hint="empty: as all"
                />
                <Field form={form} name="marks.clearSidesMm.right" label="Clear on the right" />
                <Field form={form} name="marks.clearSidesMm.near" label="Clear on the near side" />
                <Field form={form} name="marks.clearSidesMm.far" label="Clear on the far side" />
                <Select form={form} name="marks.shapes.near left" label="Near left is a" options={OWN} />
                <Select form={form} name="marks.shapes.near right" label="Near right is a" options={OWN} />
                <Select form={form} name="marks.shapes.far left" label="Far left is a" options={OWN} />
                <Select form={form} name="marks.shapes.far right" label="Far right is a" options={OWN} />
              </div>
            </details>
            <Field form={form} name="marks.printerEdgeMm" label="Unprinted edge" hint="of the printer" />
            <Field form={form} name="marks.sensorEdgeMm" label="Sensor needs" hint="from the sheet’s edge" />
          </>
        )}
      </div>
      {later && <later.MarkAdvice fields={form.watch()} unit={unit} />}
    </fieldset>
  );
}

const COUNTS = [
  ['0', 'none: the media never leaves the machine'],
  ['1', 'one'],
  ['2', 'two, along the feed'],
  ['3', 'three'],
  ['4', 'four'],
] as const;
const SHAPES = [
  ['disc', 'disc'],
  ['ring', 'ring'],
  ['cross', 'cross'],
  ['bracket', 'corner bracket'],
  ['square', 'square'],
  ['bar', 'bar'],
] as const;
const OWN = [['', 'as all the others'], ...SHAPES] as const;
const LAID = [
  ['us', 'our print'],
  ['machine', 'the machine’s own driver'],
  ['program', 'the program that prints'],
] as const;
const LEADING = [
  ['near left', 'near left'],
  ['near right', 'near right'],
  ['far left', 'far left'],
  ['far right', 'far right'],
] as const;
const SIGNS = [
  ['larger', 'being larger'],
  ['doubled', 'a second one beside it'],
  ['underlined', 'a line beside it'],
  ['none', 'nothing: its place only'],
] as const;
