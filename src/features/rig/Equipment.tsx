'use client';

import Button from 'react-bootstrap/Button';
import FormSelect from 'react-bootstrap/FormSelect';

import { WEARS } from '@/core/setup';
import { fromLongMm, LONG_UNIT, plainLength, type LengthUnit } from '@/core/units';
import type { Equipment as CutterEquipment, Mat, Tool } from '@/server/rigs/equipment';

import { useKept } from '@/features/forms/kit/useKept';

import { keepMat, keepTool } from './actions';
import { CutterForm, MatForm, ToolForm } from './EquipmentForms';

interface Props {
  readonly rigId: string;
  readonly cutter: string;
  readonly equipment: CutterEquipment;
  /** On which day each tool was fitted, as the shop's calendar has it. */
  readonly fitted: Readonly<Record<string, string>>;
  readonly unit: LengthUnit;
}

/** What belongs to a rig’s cutter: tools, mats, how far it reaches, and what is done when it is switched on. */
export function Equipment({ rigId, cutter, equipment, fitted, unit }: Props) {
  return (
    <section className="panel">
      <h2>Tools and mats of {cutter}</h2>
      {equipment.startUp.length > 0 && (
        <ol className="mb-2 ps-4" aria-label="When it is switched on">
          {equipment.startUp.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      {equipment.tools.map((tool) => (
        <ToolRow key={tool.id} rigId={rigId} tool={tool} fitted={fitted[tool.id]} unit={unit} />
      ))}
      {equipment.mats.map((mat) => (
        <MatRow key={mat.id} rigId={rigId} mat={mat} unit={unit} />
      ))}
      {equipment.tools.length + equipment.mats.length === 0 && (
        <p className="small-print">No tools noted yet.</p>
      )}
      <details className="working">
        <summary>Fit a tool</summary>
        <ToolForm rigId={rigId} unit={unit} />
      </details>
      <details className="working">
        <summary>Add a mat</summary>
        <MatForm rigId={rigId} unit={unit} />
      </details>
      <details className="working">
        <summary>Reach and start-up</summary>
        <CutterForm rigId={rigId} equipment={equipment} unit={unit} />
      </details>
    </section>
  );
}

function ToolRow({
  rigId,
  tool,
  fitted,
  unit,
}: {
  rigId: string;
  tool: Tool;
  fitted: string | undefined;
  unit: LengthUnit;
}) {
  const { pending, said, keepIt } = useKept();
  const { id, name, kind, holder, metresRun } = tool;
  return (
    <div className="d-flex gap-3 align-items-center justify-content-between mb-2">
      <span>
        <strong>{name}</strong> <span className="soft">{kind}</span>
        <br />
        <span className="small-print">
          {[
            holder && `holder ${holder}`,
            fitted && `fitted ${fitted}`,
            metresRun !== null && `${Math.round(fromLongMm(1000 * metresRun, unit))} ${LONG_UNIT[unit]} run`,
            said,
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </span>
      <Button
        variant="plain"
        disabled={pending}
        aria-label={`Take out ${name}`}
        onClick={() =>
          keepIt(['tool out', id], (stamp) => keepTool({ rigId, ...tool, retired: true }, stamp))
        }
      >
        Take out
      </Button>
    </div>
  );
}

function MatRow({ rigId, mat, unit }: { rigId: string; mat: Mat; unit: LengthUnit }) {
  const { pending, said, keepIt } = useKept();
  const change = (more: { readonly wear?: Mat['wear']; readonly retired?: boolean }): void =>
    keepIt(['mat', mat.id, more], (stamp) => keepMat({ rigId, ...mat, ...more }, stamp));
  return (
    <div className="d-flex gap-3 align-items-center justify-content-between mb-2">
      <span>
        <strong>{mat.name}</strong>{' '}
        <span className="soft">{[mat.colour, `holds ${mat.grip}`].filter(Boolean).join(', ')}</span>
        <br />
        <span className="small-print">
          {plainLength(mat.widthMm, unit)} × {plainLength(mat.heightMm, unit)}
          {said && `, ${said}`}
        </span>
      </span>
      <span className="d-flex gap-2">
        <FormSelect
          aria-label={`How worn ${mat.name} is`}
          value={mat.wear}
          disabled={pending}
          onChange={(e) => change({ wear: e.target.value as Mat['wear'] })}
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
