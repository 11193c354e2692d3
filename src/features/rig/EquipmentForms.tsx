'use client';

import { GRIPS, TOOL_KINDS, WEARS } from '@/core/setup';
import { fieldLength, type LengthUnit, longToMm } from '@/core/units';
import { Choice, Field, KeptForm } from '@/features/forms/kit/Fields';
import { figureOrNone, length, lengthOrNone, plainWords } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';
import type { Equipment as CutterEquipment, Mat, Tool } from '@/server/rigs/equipment';

import { keepCutter, keepMat, keepTool } from './actions';

/* Forms for what belongs to a cutter. */

const LONG_WORDS = { mm: 'Metres', in: 'Feet' } as const satisfies Record<LengthUnit, string>;

export function ToolForm({ rigId, unit }: { rigId: string; unit: LengthUnit }) {
  const form = useKeptForm({
    ...{ unit, what: ['tool', rigId], done: 'Kept.' },
    initial: { name: '', kind: 'knife', holder: '', metresRun: '' },
    readers: {
      ...{ name: plainWords, kind: plainWords, holder: plainWords },
      metresRun: figureOrNone(`Type ${LONG_WORDS[unit].toLowerCase()} as a number, for example 120.`),
    },
    send: ({ metresRun, kind, ...tool }, stamp) =>
      keepTool(
        {
          ...{ rigId, ...tool, kind: kind as Tool['kind'] },
          metresRun: metresRun === null ? null : longToMm(metresRun, unit) / 1000,
        },
        stamp,
      ),
  });
  return (
    <KeptForm form={form} words="Fit it" className="row g-2">
      <Field form={form} id="tool-name" name="name" label="Tool" />
      <Choice form={form} id="tool-kind" name="kind" label="Kind" options={TOOL_KINDS} />
      <Field form={form} id="tool-holder" name="holder" label="Holder" />
      <Field form={form} id="tool-metres" name="metresRun" label={`${LONG_WORDS[unit]} run so far`} figures />
    </KeptForm>
  );
}

export function MatForm({ rigId, unit }: { rigId: string; unit: LengthUnit }) {
  const form = useKeptForm({
    ...{ unit, what: ['mat', rigId], done: 'Kept.' },
    initial: { name: '', colour: '', widthMm: '', heightMm: '', grip: 'standard', wear: 'fresh' },
    readers: {
      ...{ name: plainWords, colour: plainWords, widthMm: length, heightMm: length },
      ...{ grip: plainWords, wear: plainWords },
    },
    send: ({ grip, wear, ...mat }, stamp) =>
      keepMat({ rigId, ...mat, grip: grip as Mat['grip'], wear: wear as Mat['wear'] }, stamp),
  });
  return (
    <KeptForm form={form} words="Add it" className="row g-2">
      <Field form={form} id="mat-name" name="name" label="Mat" />
      <Field form={form} id="mat-colour" name="colour" label="Colour" />
      <Field form={form} id="mat-width" name="widthMm" label={`Width, ${unit}`} figures />
      <Field form={form} id="mat-height" name="heightMm" label={`Length, ${unit}`} figures />
      <Choice form={form} id="mat-grip" name="grip" label="It holds" options={GRIPS} />
      <Choice form={form} id="mat-wear" name="wear" label="It is" options={WEARS} />
    </KeptForm>
  );
}

export function CutterForm({
  rigId,
  equipment,
  unit,
}: {
  rigId: string;
  equipment: CutterEquipment;
  unit: LengthUnit;
}) {
  const form = useKeptForm({
    ...{ unit, what: ['cutter', rigId], done: 'Kept.' },
    initial: {
      reachMm: equipment.reachMm === null ? '' : fieldLength(equipment.reachMm, unit),
      startUp: equipment.startUp.join('\n'),
    },
    readers: { reachMm: lengthOrNone, startUp: plainWords },
    after: (typed) => typed,
    send: ({ reachMm, startUp }, stamp) =>
      keepCutter(
        {
          ...{ rigId, reachMm },
          startUp: startUp
            .split('\n')
            .map((s) => s.trim())
            .filter(Boolean),
        },
        stamp,
      ),
  });
  return (
    <KeptForm form={form} words="Keep it" className="row g-2">
      <Field
        {...{ form, id: 'cutter-reach', name: 'reachMm', label: `The carriage reaches, ${unit}` }}
        figures
      />
      <Field
        {...{ form, id: 'cutter-start', name: 'startUp', width: 'col-12' }}
        label="When it is switched on, a line each"
        as="textarea"
        rows={4}
      />
    </KeptForm>
  );
}
