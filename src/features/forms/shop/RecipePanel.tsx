'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import type { UseFormReturn } from 'react-hook-form';

import { recipeCautions } from '@/core/recipe';

import { Field } from './ShopField';
import type { ShopFields } from './shopTypes';

/** How this media is printed on this rig; shown again at Print and kept with each session. */
export function RecipePanel({ form }: { form: UseFormReturn<ShopFields> }) {
  const recipe = form.watch('recipe');
  const cautions = recipeCautions({
    borderless: recipe.borderless,
    scalePercent: Number(recipe.scalePercent.replace(',', '.')),
  });
  return (
    <fieldset className="panel">
      <legend className="h2 fs-6 fw-bold">Print recipe</legend>
      <div className="row g-3">
        <Field form={form} name="recipe.tray" label="Tray" hint="rear, one sheet at a time" />
        <Field form={form} name="recipe.face" label="Face" hint="which side up" />
        <Field form={form} name="recipe.paperType" label="Paper type" hint="as set in the driver" />
        <Field form={form} name="recipe.quality" label="Quality" />
        <Field form={form} name="recipe.warmUp" label="Warm-up" hint="heater, first sheets" />
        <Field form={form} name="recipe.room" label="Room" hint="temperature, humidity" />
        <Field form={form} name="recipe.scalePercent" label="Scale, %" hint="100 unless there is a reason" />
        <div className="col-6 col-lg-8 d-flex align-items-center">
          <label className="d-flex gap-2 align-items-center mt-3">
            <FormCheckInput type="checkbox" className="m-0" {...form.register('recipe.borderless')} />
            borderless printing
          </label>
        </div>
      </div>
      {cautions.map((words) => (
        <p key={words} className="notice mt-2 mb-0">
          {words}
        </p>
      ))}
    </fieldset>
  );
}
