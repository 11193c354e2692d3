'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import type { UseFormReturn } from 'react-hook-form';

import { rollerRoom } from '@/core/layout';
import type { LengthUnit } from '@/core/units';
import { useLater } from '@/ui/useLater';

import { rollerWarnings } from '@/ui/words/rollerWords';

import { Field } from './ShopField';
import { readShopForm } from './readShopForm';
import type { ShopFields } from './shopTypes';

const loadKits = () => import('@/core/setup/kitShapes');

/** What a roll needs on this rig: room ahead and behind, and where its rollers run. */
export function RollPanel({ form, unit }: { form: UseFormReturn<ShopFields>; unit: LengthUnit }) {
  const { input } = readShopForm(form.watch(), unit);
  const kits = useLater(loadKits);
  const marks = kits?.markKitSchema.nullable().safeParse(input.marks);
  const roll = kits?.rollKitSchema.safeParse(input.roll);
  const warnings =
    marks?.success && marks.data && roll?.success
      ? rollerWarnings(rollerRoom(marks.data, roll.data), roll.data.rollerMm, unit)
      : [];
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">On a roll, {unit === 'mm' ? 'mm' : 'inch'}</legend>
      <div className="row g-3">
        <Field form={form} name="roll.leadMm" label="Lead" hint="rollers and a test cut" />
        <Field form={form} name="roll.tailMm" label="Tail" hint="keeps the sensor covered" />
        <Field form={form} name="roll.longestMm" label="Far marks up to" hint="empty: the sheet’s length" />
        <Field form={form} name="roll.rollerMm" label="Roller width" />
        <Field form={form} name="roll.rollerEdgeMm" label="Roller to edge" hint="at least" />
        <div className="col-12">
          <label className="d-flex gap-2 align-items-center" style={{ minHeight: 44 }}>
            <FormCheckInput
              type="checkbox"
              className="m-0 flex-shrink-0"
              {...form.register('roll.testCutTurned')}
            />
            the piece goes in the other way round first, for a test cut in the waste
          </label>
        </div>
      </div>
      {warnings.map((words) => (
        <p key={words} className="notice mt-2 mb-0">
          {words}
        </p>
      ))}
    </fieldset>
  );
}
