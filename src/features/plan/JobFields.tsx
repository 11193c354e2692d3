'use client';

import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { TYPING_STEPS } from '@/core/layout';
import { LONG_UNIT, type LengthUnit, plainLength } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import { CUT_FILE_SUFFIXES, FORMAT_WORDS } from '@/core/drawing/formats';

import type { PlanErrors, PlanFields } from './planFields';

interface FieldProps {
  readonly fields: PlanFields;
  readonly errors: PlanErrors;
  readonly change: (by: Partial<PlanFields>) => void;
}

/** One figure of the plan, as typed, with its hint or what is wrong with it. */
function Text({
  fields,
  errors,
  change,
  name,
  label,
  hint = '',
  width = 'col-6 col-lg-3',
}: FieldProps & {
  readonly name: keyof PlanFields;
  readonly label: string;
  readonly hint?: string;
  readonly width?: string;
}) {
  return (
    <div className={width}>
      <FormLabel htmlFor={`plan-${name}`}>{label}</FormLabel>
      <FormControl
        id={`plan-${name}`}
        autoComplete="off"
        value={String(fields[name] ?? '')}
        aria-invalid={errors[name] !== undefined}
        aria-describedby={`plan-${name}-say`}
        onChange={(event) =>
          change({
            [name]: event.target.value,
            // Rows that were dragged belong to the sizes they were dragged for.
            ...(name === 'itemHeight' || name === 'itemWidth' || name === 'copies'
              ? { rowsPerSection: null }
              : {}),
          })
        }
      />
      <span id={`plan-${name}-say`} className={errors[name] ? 'field-error' : 'small-print'}>
        {errors[name] ?? hint}
      </span>
    </div>
  );
}

/** What is asked for: the first thing on the page. */
export function JobFields({
  unit,
  ready,
  ...given
}: FieldProps & { readonly unit: LengthUnit; readonly ready: boolean }) {
  const { fields, change } = given;
  return (
    <fieldset className="panel panel-tight" disabled={!ready}>
      <legend className="visually-hidden">The job</legend>
      <div className="row g-2">
        <Text {...given} name="name" label="Job" width="col-12 col-lg-6" />
        <Text {...given} name="copies" label="Copies" />
        <div className="col-6 col-lg-3">
          <FormLabel htmlFor="plan-outline">Outline</FormLabel>
          <FormSelect
            id="plan-outline"
            value={fields.outline}
            onChange={(event) => change({ outline: event.target.value as PlanFields['outline'] })}
          >
            <option value="rectangle">straight sides</option>
            <option value="round">round or free</option>
          </FormSelect>
        </div>
        <Text {...given} name="itemWidth" label={`Item width, ${unit}`} hint="across the media" />
        <Text {...given} name="itemHeight" label={`Item height, ${unit}`} hint="along the feed" />
        <Text {...given} name="gap" label={`Gap, ${unit}`} hint="between items" />
        <Text {...given} name="tolerance" label={`May miss by, ${unit}`} hint="bleed, or uneven border" />
      </div>
    </fieldset>
  );
}

/** What else the plan goes by: media, file, margins, speeds. */
export function MoreFields({
  unit,
  setup,
  fileSays,
  hasFile,
  onFile,
  onNoFile,
  like,
  onAfresh,
  ready,
  ...given
}: FieldProps & {
  unit: LengthUnit;
  setup: Setup;
  fileSays: string;
  hasFile: boolean;
  onFile: (file: File) => void;
  onNoFile: () => void;
  /** The run whose speeds the form opens with. */
  like: string | null;
  onAfresh: () => void;
  ready: boolean;
}) {
  const { fields, change } = given;
  const text = (name: keyof PlanFields, label: string, hint = '') => (
    <Text {...given} name={name} label={label} hint={hint} />
  );
  const tick = (name: 'mayTurn' | 'centreLastRow' | 'correctCreep' | 'oneMachine', label: string) => (
    <div className="col-md-6 d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
      <FormCheckInput
        id={`plan-${name}`}
        type="checkbox"
        className="mt-0"
        checked={fields[name]}
        onChange={(event) => change({ [name]: event.target.checked })}
      />
      <label htmlFor={`plan-${name}`}>{label}</label>
    </div>
  );
  return (
    <fieldset className="panel" disabled={!ready}>
      <legend className="h2 fs-6 fw-bold">Media, file and speeds</legend>
      <div className="row g-3">
        {text(
          'printableWidth',
          `Printable width, ${unit}`,
          `media: ${plainLength(setup.sheetWidthMm, unit)} overall`,
        )}
        {text('rollLeft', `Left on the roll, ${unit}`, 'empty: not looked at')}
        {text('promise', 'Spoiled at most, %', 'of the items')}
        <div className="col-6 col-lg-3">
          <FormLabel htmlFor="plan-typingStep">Typed in steps of</FormLabel>
          <FormSelect
            id="plan-typingStep"
            value={fields.typingStep}
            onChange={(event) => change({ typingStep: event.target.value })}
          >
            {TYPING_STEPS[unit].map((step) => (
              <option key={step} value={step}>
                {step} {unit}
              </option>
            ))}
          </FormSelect>
        </div>
        <div className="col-12">
          <FormLabel htmlFor="plan-file">Cut file of one item</FormLabel>
          <FormControl
            id="plan-file"
            type="file"
            accept={CUT_FILE_SUFFIXES.join(',')}
            aria-describedby="plan-file-say"
            onChange={(event) => {
              const { files } = event.target as HTMLInputElement;
              if (files?.[0]) onFile(files[0]);
            }}
          />
          <span id="plan-file-say" className="small-print" role="status">
            {fileSays || `${FORMAT_WORDS}; without one the item is cut along its outline`}
            {hasFile && (
              <>
                {' '}
                <Button variant="link" className="p-0 align-baseline" onClick={onNoFile}>
                  Cut along the outline instead
                </Button>
              </>
            )}
          </span>
        </div>
      </div>
      <details className="working">
        <summary>Margins, marks, lanes and speeds</summary>
        <div className="row g-3">
          {text('markRoom', `Mark to first row, ${unit}`, 'and last row to mark')}
          {text('between', `Between sections, ${unit}`)}
          {text('lead', `Lead, ${unit}`, 'rollers and a test cut')}
          {text('tail', `Tail, ${unit}`, 'keeps the sensor covered')}
          {text('lanes', 'Lanes', 'side by side, cut apart')}
          {text('laneGap', `Between lanes, ${unit}`)}
          {text('printSpeed', `Print, ${LONG_UNIT[unit]} an hour`)}
          {text('cutSpeed', `Cut, ${unit} a second`)}
          {text('registerTime', 'Load and register, s')}
          {text('wait', 'Wait, min', 'drying, laminating')}
          {tick('mayTurn', 'items may lie turned by 90°')}
          {tick('centreLastRow', 'a last row that is not full stands in the middle')}
          {tick('correctCreep', 'the cut files take the known creep out')}
          {tick('oneMachine', 'one machine prints and cuts')}
        </div>
        {like !== null && (
          <p className="small-print mb-0 mt-2">
            A fresh form has its speeds from {like}, this rig’s last plan.
          </p>
        )}
      </details>
      <Button variant="link" className="p-0 mt-2" onClick={onAfresh}>
        Start afresh
      </Button>
    </fieldset>
  );
}
