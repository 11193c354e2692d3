'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import type { UseFormReturn } from 'react-hook-form';

import { onPage } from '@/core/drawing';
import { pageSvgUrl } from '@/core/drawing/svg/writeSvg';
import { markPicture, markWarnings, registrationOf } from '@/core/marks';
import type { LengthUnit } from '@/core/units';
import { useLater } from '@/ui/useLater';

import { Field, Select } from './ShopField';
import { readShopForm } from './readShopForm';
import type { ShopFields } from './shopTypes';

/** The marks this rig's cutter reads: it reads no others. Drawn as they will be printed, with what will go wrong. */
export function MarksPanel({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const marks = form.watch('marks');
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
            <Field form={form} name="marks.size" label={`Size, ${unit}`} />
            <Field form={form} name="marks.line" label={`Line width, ${unit}`} hint="where it has lines" />
            <div className="col-6 col-lg-4">
              <FormLabel htmlFor="marks-colour">Colour</FormLabel>
              <FormControl
                id="marks-colour"
                type="color"
                className="form-control-color w-100"
                {...form.register('marks.colour')}
              />
            </div>
            <Field form={form} name="marks.insetLeft" label="Inset left" hint="edge to centre" />
            <Field form={form} name="marks.insetRight" label="Inset right" />
            <Field form={form} name="marks.insetNear" label="Inset near" />
            <Field form={form} name="marks.insetFar" label="Inset far" />
            <Field form={form} name="marks.clear" label="Clear zone" hint="round each mark" />
            <Select form={form} name="marks.leading" label="Leading mark" options={LEADING} />
            <Select form={form} name="marks.leadSign" label="It is told by" options={SIGNS} />
            {marks.count === '4' && (
              <Field
                form={form}
                name="marks.every"
                label="More marks every"
                hint="along both sides; empty: none"
              />
            )}
            <details className="working col-12">
              <summary>A side or a mark that differs</summary>
              <div className="row g-2">
                <Field form={form} name="marks.clearLeft" label="Clear on the left" hint="empty: as all" />
                <Field form={form} name="marks.clearRight" label="Clear on the right" />
                <Field form={form} name="marks.clearNear" label="Clear on the near side" />
                <Field form={form} name="marks.clearFar" label="Clear on the far side" />
                <Select form={form} name="marks.shapeNearLeft" label="Near left is a" options={OWN} />
                <Select form={form} name="marks.shapeNearRight" label="Near right is a" options={OWN} />
                <Select form={form} name="marks.shapeFarLeft" label="Far left is a" options={OWN} />
                <Select form={form} name="marks.shapeFarRight" label="Far right is a" options={OWN} />
              </div>
            </details>
            <Field form={form} name="marks.printerEdge" label="Unprinted edge" hint="of the printer" />
            <Field form={form} name="marks.sensorEdge" label="Sensor needs" hint="from the sheet’s edge" />
          </>
        )}
      </div>
      <MarkAdvice fields={form.watch()} unit={unit} />
    </fieldset>
  );
}

const loadKits = () => import('@/shapes/kits');

/** What the marks take out, what will go wrong, and how they look; nothing while a figure cannot be read. */
function MarkAdvice({ fields, unit }: { fields: ShopFields; unit: LengthUnit }) {
  const { input } = readShopForm(fields, unit);
  const kits = useLater(loadKits);
  if (!kits) return null;
  const kit = kits.markKitSchema.nullable().safeParse(input.marks);
  const sheet = { sheetWidthMm: Number(input.sheetWidthMm), sheetHeightMm: Number(input.sheetHeightMm) };
  if (!kit.success || !(sheet.sheetWidthMm > 0) || !(sheet.sheetHeightMm > 0)) return null;
  const { parameters } = registrationOf(kit.data, sheet);
  return (
    <>
      <p className="mt-3 mb-2">{REMOVES[parameters]}</p>
      {kit.data && (
        <>
          {markWarnings(kit.data, sheet).map((words) => (
            <p key={words} className="notice mb-2">
              {words}
            </p>
          ))}
          {/* eslint-disable-next-line @next/next/no-img-element -- a picture made here, no loader to gain from */}
          <img
            src={pageSvgUrl(
              onPage(
                { widthMm: sheet.sheetWidthMm, heightMm: sheet.sheetHeightMm },
                'marks',
                markPicture(kit.data, sheet),
              ),
            )}
            alt={`${kit.data.count} marks on the sheet, near edge below`}
            className="paper d-block mx-auto"
            style={{ maxHeight: 180, maxWidth: '100%', border: '1px solid var(--rp-rule)' }}
          />
        </>
      )}
    </>
  );
}

const REMOVES = {
  0: 'Nothing is registered on the print: everything that is off comes from the rig.',
  2: 'One mark takes out the shift of each load. How squarely the sheet was laid in comes new every time.',
  4: 'Two marks take out shift, turn and one scale of each load. What is left of them is the rig’s own.',
  6: 'These marks take out shift, turn, both scales and lean of each load. What is left is the rig’s own.',
} as const;
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
