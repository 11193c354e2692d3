'use client';

import { format } from 'date-fns';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { GRIPS, TOOL_KINDS, WEARS } from '@/core/setup';
import { fieldLength, lengthRefusalText, parseLength, plainLength, type LengthUnit } from '@/core/units';
import { keeping } from '@/features/forms/keeping';
import type { Equipment as CutterEquipment, Mat, Tool } from '@/server/rigs/equipment';

import { keepEquipment } from './actions';

interface Props {
  readonly rigId: string;
  readonly cutter: string;
  readonly equipment: CutterEquipment;
  readonly unit: LengthUnit;
}

/** What belongs to a rig’s cutter: tools, mats, how far it reaches, and what is done when it is switched on. */
export function Equipment({ rigId, cutter, equipment, unit }: Props) {
  return (
    <section className="panel">
      <h2>What belongs to {cutter}</h2>
      {equipment.startUp.length > 0 && (
        <ol className="mb-2 ps-4" aria-label="When it is switched on">
          {equipment.startUp.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      {equipment.tools.map((tool) => (
        <ToolRow key={tool.id} rigId={rigId} tool={tool} />
      ))}
      {equipment.mats.map((mat) => (
        <MatRow key={mat.id} rigId={rigId} mat={mat} unit={unit} />
      ))}
      {equipment.tools.length + equipment.mats.length === 0 && (
        <p className="small-print">No tool or mat is noted: what is calibrated is with its only tool.</p>
      )}
      <details className="working">
        <summary>Fit a tool</summary>
        <ToolForm rigId={rigId} />
      </details>
      <details className="working">
        <summary>Add a mat</summary>
        <MatForm rigId={rigId} unit={unit} />
      </details>
      <details className="working">
        <summary>Its reach, and what is done when it is switched on</summary>
        <CutterForm rigId={rigId} equipment={equipment} unit={unit} />
      </details>
    </section>
  );
}

/** Keeps one thing, and says what went wrong by its field. */
function useEquipment(what: 'tool' | 'mat' | 'cutter') {
  const [pending, start] = useTransition();
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const save = (input: object, after?: () => void): void =>
    start(async () => {
      const done = await keeping(['equipment', what, input], (stamp) =>
        keepEquipment({ what, input }, stamp),
      );
      setErrors(done.ok ? {} : done.fields);
      setSaid(done.ok ? 'Kept.' : done.message);
      if (done.ok) after?.();
    });
  const refuse = (fields: Readonly<Record<string, string>>): void => {
    setErrors(fields);
    setSaid('Some figures need another look; they are marked.');
  };
  return { pending, errors, said, save, refuse };
}

function ToolRow({ rigId, tool }: { rigId: string; tool: Tool }) {
  const { pending, said, save } = useEquipment('tool');
  const { id, name, kind, holder, metresRun } = tool;
  return (
    <div className="d-flex gap-3 align-items-center justify-content-between mb-2">
      <span>
        <strong>{name}</strong> <span className="soft">{kind}</span>
        <br />
        <span className="small-print">
          {[
            holder && `holder ${holder}`,
            `fitted ${format(tool.fittedAt, 'd MMM yyyy')}`,
            metresRun !== null && `${Math.round(metresRun)} m run`,
            said && said !== 'Kept.' && said,
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </span>
      <Button
        variant="plain"
        disabled={pending}
        aria-label={`Take out ${name}`}
        onClick={() => save({ rigId, id, name, kind, holder, metresRun, retired: true })}
      >
        Take out
      </Button>
    </div>
  );
}

function MatRow({ rigId, mat, unit }: { rigId: string; mat: Mat; unit: LengthUnit }) {
  const { pending, said, save } = useEquipment('mat');
  const { id: matId, ...same } = mat;
  const change = (more: object): void => save({ rigId, id: matId, ...same, ...more });
  return (
    <div className="d-flex gap-3 align-items-center justify-content-between mb-2">
      <span>
        <strong>{mat.name}</strong>{' '}
        <span className="soft">{[mat.colour, `holds ${mat.grip}`].filter(Boolean).join(', ')}</span>
        <br />
        <span className="small-print">
          {plainLength(mat.widthMm, unit)} × {plainLength(mat.heightMm, unit)}
          {said && said !== 'Kept.' && `, ${said}`}
        </span>
      </span>
      <span className="d-flex gap-2">
        <FormSelect
          aria-label={`How worn ${mat.name} is`}
          value={mat.wear}
          disabled={pending}
          onChange={(e) => change({ wear: e.target.value })}
        >
          {WEARS.map((wear) => (
            <option key={wear}>{wear}</option>
          ))}
        </FormSelect>
        <Button
          variant="plain"
          disabled={pending}
          aria-label={`Throw away ${mat.name}`}
          onClick={() => change({ retired: true })}
        >
          Throw away
        </Button>
      </span>
    </div>
  );
}

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

const NEW_TOOL = { name: '', kind: 'knife' as Tool['kind'], holder: '', metres: '' };

function ToolForm({ rigId }: { rigId: string }) {
  const [tool, setTool] = useState(NEW_TOOL);
  const { pending, errors, said, save, refuse } = useEquipment('tool');
  const set = (more: Partial<typeof NEW_TOOL>): void => setTool({ ...tool, ...more });
  const submit = (): void => {
    const metresRun = tool.metres.trim() === '' ? null : Number(tool.metres.replace(',', '.'));
    if (Number.isNaN(metresRun)) return refuse({ metresRun: 'Type metres as a number, for example 120.' });
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
        label="Metres run so far"
        value={tool.metres}
        error={errors.metresRun}
        onChange={(metres) => set({ metres })}
      />
      <Kept words="Fit it" pending={pending} said={said} />
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

function MatForm({ rigId, unit }: { rigId: string; unit: LengthUnit }) {
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
      <Kept words="Add it" pending={pending} said={said} />
    </form>
  );
}

function CutterForm({ rigId, equipment, unit }: Omit<Props, 'cutter'>) {
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
      <Kept words="Keep it" pending={pending} said={said} />
    </form>
  );
}

function Kept({ words, pending, said }: { words: string; pending: boolean; said: string }) {
  return (
    <div className="col-12 d-flex gap-3 align-items-center">
      <Button type="submit" variant="plain" disabled={pending}>
        {words}
      </Button>
      <span role="status">{said}</span>
    </div>
  );
}
