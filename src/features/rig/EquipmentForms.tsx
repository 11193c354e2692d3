'use client';

import { useState } from 'react';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { GRIPS, TOOL_KINDS, WEARS } from '@/core/setup';
import { fieldLength, lengthRefusalText, parseLength, type LengthUnit, longToMm } from '@/core/units';
import type { Equipment as CutterEquipment, Mat, Tool } from '@/server/rigs/equipment';

import { KeepRow } from '@/features/forms/KeepRow';
import { useEquipment } from './useEquipment';

/* Forms for what belongs to a cutter. */

function Typed({
  id,
  label,
  value,
  error,
  onChange,
}: {
  id: string;
  label: string;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
}) {
  return (
    <div className="col-6">
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormControl
        id={id}
        value={value}
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={error ? `${id}-say` : undefined}
        onChange={(e) => onChange(e.target.value)}
      />
      {error && (
        <span id={`${id}-say`} className="field-error">
          {error}
        </span>
      )}
    </div>
  );
}

function Chosen<T extends string>({
  id,
  label,
  value,
  options,
  onChange,
}: {
  id: string;
  label: string;
  value: T;
  options: readonly T[];
  onChange: (value: T) => void;
}) {
  return (
    <div className="col-6">
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormSelect id={id} value={value} onChange={(e) => onChange(e.target.value as T)}>
        {options.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </FormSelect>
    </div>
  );
}

const LONG_WORDS = { mm: 'Metres', in: 'Feet' } as const satisfies Record<LengthUnit, string>;

const NEW_TOOL = { name: '', kind: 'knife' as Tool['kind'], holder: '', metres: '' };

export function ToolForm({ rigId, unit }: { rigId: string; unit: LengthUnit }) {
  const [tool, setTool] = useState(NEW_TOOL);
  const { pending, errors, said, save, refuse } = useEquipment('tool');
  const set = (more: Partial<typeof NEW_TOOL>): void => setTool({ ...tool, ...more });
  const submit = (): void => {
    const run = tool.metres.trim() === '' ? null : Number(tool.metres.replace(',', '.'));
    if (Number.isNaN(run))
      return refuse({ metresRun: `Type ${LONG_WORDS[unit].toLowerCase()} as a number, for example 120.` });
    const metresRun = run === null ? null : longToMm(run, unit) / 1000;
    const { name, kind, holder } = tool;
    save({ rigId, name, kind, holder, metresRun }, () => setTool(NEW_TOOL));
  };
  return (
    <form
      className="row g-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <Typed
        id="tool-name"
        label="Tool"
        value={tool.name}
        error={errors.name}
        onChange={(name) => set({ name })}
      />
      <Chosen
        id="tool-kind"
        label="Kind"
        value={tool.kind}
        options={TOOL_KINDS}
        onChange={(kind) => set({ kind })}
      />
      <Typed
        id="tool-holder"
        label="Holder"
        value={tool.holder}
        error={errors.holder}
        onChange={(holder) => set({ holder })}
      />
      <Typed
        id="tool-metres"
        label={`${LONG_WORDS[unit]} run so far`}
        value={tool.metres}
        error={errors.metresRun}
        onChange={(metres) => set({ metres })}
      />
      <div className="col-12">
        <KeepRow words="Fit it" pending={pending} said={said} />
      </div>
    </form>
  );
}

const NEW_MAT = {
  name: '',
  grip: 'standard' as Mat['grip'],
  colour: '',
  width: '',
  height: '',
  wear: 'fresh' as Mat['wear'],
};

export function MatForm({ rigId, unit }: { rigId: string; unit: LengthUnit }) {
  const [mat, setMat] = useState(NEW_MAT);
  const { pending, errors, said, save, refuse } = useEquipment('mat');
  const set = (more: Partial<typeof NEW_MAT>): void => setMat({ ...mat, ...more });
  const submit = (): void => {
    const [width, height] = [parseLength(mat.width, unit), parseLength(mat.height, unit)];
    if (!width.ok || !height.ok)
      return refuse({
        ...(width.ok ? {} : { widthMm: lengthRefusalText(width.refusal, unit) }),
        ...(height.ok ? {} : { heightMm: lengthRefusalText(height.refusal, unit) }),
      });
    const { name, grip, colour, wear } = mat;
    save({ rigId, name, grip, colour, wear, widthMm: width.value, heightMm: height.value }, () =>
      setMat(NEW_MAT),
    );
  };
  return (
    <form
      className="row g-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <Typed
        id="mat-name"
        label="Mat"
        value={mat.name}
        error={errors.name}
        onChange={(name) => set({ name })}
      />
      <Typed
        id="mat-colour"
        label="Colour"
        value={mat.colour}
        error={errors.colour}
        onChange={(colour) => set({ colour })}
      />
      <Typed
        id="mat-width"
        label={`Width, ${unit}`}
        value={mat.width}
        error={errors.widthMm}
        onChange={(width) => set({ width })}
      />
      <Typed
        id="mat-height"
        label={`Length, ${unit}`}
        value={mat.height}
        error={errors.heightMm}
        onChange={(height) => set({ height })}
      />
      <Chosen
        id="mat-grip"
        label="It holds"
        value={mat.grip}
        options={GRIPS}
        onChange={(grip) => set({ grip })}
      />
      <Chosen
        id="mat-wear"
        label="It is"
        value={mat.wear}
        options={WEARS}
        onChange={(wear) => set({ wear })}
      />
      <div className="col-12">
        <KeepRow words="Add it" pending={pending} said={said} />
      </div>
    </form>
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
  const [reach, setReach] = useState(equipment.reachMm === null ? '' : fieldLength(equipment.reachMm, unit));
  const [steps, setSteps] = useState(equipment.startUp.join('\n'));
  const { pending, errors, said, save, refuse } = useEquipment('cutter');
  const submit = (): void => {
    const read = reach.trim() === '' ? null : parseLength(reach, unit);
    if (read && !read.ok) return refuse({ reachMm: lengthRefusalText(read.refusal, unit) });
    const startUp = steps
      .split('\n')
      .map((s) => s.trim())
      .filter(Boolean);
    save({ rigId, reachMm: read?.ok ? read.value : null, startUp });
  };
  return (
    <form
      className="row g-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <Typed
        id="cutter-reach"
        label={`The carriage reaches, ${unit}`}
        value={reach}
        error={errors.reachMm}
        onChange={setReach}
      />
      <div className="col-12">
        <FormLabel htmlFor="cutter-start">When it is switched on, a line each</FormLabel>
        <FormControl
          id="cutter-start"
          as="textarea"
          rows={4}
          value={steps}
          onChange={(e) => setSteps(e.target.value)}
        />
        {errors.startUp && <span className="field-error">{errors.startUp}</span>}
      </div>
      <div className="col-12">
        <KeepRow words="Keep it" pending={pending} said={said} />
      </div>
    </form>
  );
}
