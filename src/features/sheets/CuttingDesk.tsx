'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import {
  cuttingCautions,
  kindOf,
  kindsMet,
  LINE_KINDS,
  linesByRole,
  MOST_PASSES,
  type Cutting,
  type JobPiece,
  type LineKind,
  type LineRole,
} from '@/core/sheetJob';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';
import { useHydrated } from '@/ui/useHydrated';

import { cutSheetJobAgain } from './actions';
import { earlier, leftText, readLeft } from './cutting.view';
import { KIND_WORDS, ROLE_WORDS } from './kindWords';

type Change = (by: Partial<Cutting>) => void;

/** How the same print is cut another way: which lines, by what, in what order, how often; printed sheets stay good. */
export function CuttingDesk({
  job,
  pieces,
  sheets,
  now,
}: {
  job: { readonly id: string; readonly version: number };
  pieces: readonly JobPiece[];
  /** How many pieces lie on each sheet. */
  sheets: readonly number[];
  /** As the newest cut file is cut. */
  now: Cutting;
}) {
  const ready = useHydrated();
  const [cutting, setCutting] = useState(now);
  const places = sheets.map((length) => Array.from({ length }));
  const [left, setLeft] = useState(leftText(now.left, places));
  const read = readLeft(left, places);
  const change: Change = (by) => setCutting({ ...cutting, ...by });
  const met = kindsMet(cutting, { pieces });
  const cautions = cuttingCautions(cutting, { pieces });
  const make = async () => {
    if (!read.ok) return read.refusal;
    const as = { ...cutting, left: [...read.value] };
    const done = await keeping(
      ['cutting', job.id, as],
      (stamp) => cutSheetJobAgain({ jobId: job.id, correction: 'standing', cutting: named(as) }, stamp),
      job.version,
    );
    return done.ok ? null : whyNotDone(done);
  };
  return (
    <details className="mt-3">
      <summary>Cut it another way</summary>
      <p className="small-print mt-2">
        Lines stay where they are, so sheets that are printed stay good. Each way is a cut file with a number
        of its own.
      </p>
      <div className="row g-2">
        {pieces
          .filter((p) => p.copies !== 0)
          .flatMap((p) =>
            linesByRole(p).map(({ role, kind }) => (
              <LineChoice
                key={`${p.id} ${role}`}
                label={`${pieces.length > 1 ? `${p.id}, ` : ''}${ROLE_WORDS[role]}`}
                {...{ piece: p.id, role, ready, cutting, change }}
                laidOut={kind}
              />
            )),
          )}
      </div>
      <ol className="list-unstyled mt-3 mb-0">
        {met.map((kind, at) => (
          <KindRow
            key={kind}
            {...{ kind, at, ready, cutting, change }}
            onEarlier={() => change({ sequence: earlier(met, kind) })}
          />
        ))}
      </ol>
      <div className="form-check d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
        <FormCheckInput
          id="cutting-outer"
          className="mt-0"
          disabled={!ready}
          checked={cutting.outerFirst}
          onChange={(event) => change({ outerFirst: event.target.checked })}
        />
        <label htmlFor="cutting-outer">outlines before the holes in them</label>
      </div>
      <FormLabel htmlFor="cutting-left">Skip these pieces</FormLabel>
      <FormControl
        id="cutting-left"
        className="mono"
        autoComplete="off"
        placeholder={sheets.length > 1 ? 'none, or 1.3, 2.7-9' : 'none, or 3, 7-9'}
        disabled={!ready}
        value={left}
        aria-invalid={!read.ok}
        aria-describedby={read.ok ? undefined : 'cutting-left-say'}
        onChange={(event) => setLeft(event.target.value)}
      />
      {!read.ok && (
        <span id="cutting-left-say" className="field-error">
          {read.refusal}
        </span>
      )}
      {cautions.map((words) => (
        <p className="caution mt-2 mb-0" key={words}>
          {words}
        </p>
      ))}
      <div className="mt-3">
        <PendingButton words="Make a cut file of it" onPress={make} />
      </div>
    </details>
  );
}

/** Tools that nobody named are not sent. */
const named = (cutting: Cutting): Cutting => ({
  ...cutting,
  tools: cutting.tools.filter((t) => t.words !== ''),
});

function LineChoice({
  label,
  piece,
  role,
  laidOut,
  ready,
  cutting,
  change,
}: {
  label: string;
  piece: string;
  role: LineRole;
  laidOut: LineKind;
  ready: boolean;
  cutting: Cutting;
  change: Change;
}) {
  const id = `cutting-${piece}-${role}`;
  const others = cutting.kinds.filter((k) => k.piece !== piece || k.role !== role);
  return (
    <div className="col-6">
      <FormLabel htmlFor={id}>{label.charAt(0).toUpperCase() + label.slice(1)}</FormLabel>
      <FormSelect
        id={id}
        disabled={!ready}
        value={kindOf(cutting, piece, role, laidOut)}
        onChange={(event) => {
          const kind = event.target.value as LineKind | 'none';
          change({ kinds: kind === laidOut ? others : [...others, { piece, role, kind }] });
        }}
      >
        {LINE_KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {KIND_WORDS[kind]}
          </option>
        ))}
        <option value="none">not cut</option>
      </FormSelect>
    </div>
  );
}

function KindRow({
  kind,
  at,
  ready,
  cutting,
  change,
  onEarlier,
}: {
  kind: LineKind;
  at: number;
  ready: boolean;
  cutting: Cutting;
  change: Change;
  onEarlier: () => void;
}) {
  const pass = cutting.passes.find((p) => p.kind === kind) ?? { kind, times: 1, pause: false };
  const passes = (by: Partial<typeof pass>): void =>
    change({ passes: [...cutting.passes.filter((p) => p.kind !== kind), { ...pass, ...by }] });
  const tool = cutting.tools.find((t) => t.kind === kind)?.words ?? '';
  return (
    <li className="mb-2">
      <div className="d-flex gap-2 align-items-center">
        <strong>
          {at + 1}. {KIND_WORDS[kind]}
        </strong>
        {at > 0 && (
          <Button variant="plain" className="btn-small" disabled={!ready} onClick={onEarlier}>
            Earlier<span className="visually-hidden">: {KIND_WORDS[kind]}</span>
          </Button>
        )}
      </div>
      <div className="row g-2">
        <div className="col-4">
          <FormLabel htmlFor={`cutting-${kind}-times`}>Passes</FormLabel>
          <FormSelect
            id={`cutting-${kind}-times`}
            disabled={!ready}
            value={pass.times}
            onChange={(event) => passes({ times: Number(event.target.value) })}
          >
            {Array.from({ length: MOST_PASSES }, (_, i) => (
              <option key={i} value={i + 1}>
                {i + 1}
              </option>
            ))}
          </FormSelect>
        </div>
        <div className="col-8">
          <FormLabel htmlFor={`cutting-${kind}-tool`}>Blade, force, speed</FormLabel>
          <FormControl
            id={`cutting-${kind}-tool`}
            autoComplete="off"
            maxLength={120}
            disabled={!ready}
            value={tool}
            onChange={(event) =>
              change({
                tools: [...cutting.tools.filter((t) => t.kind !== kind), { kind, words: event.target.value }],
              })
            }
          />
        </div>
      </div>
      {pass.times > 1 && (
        <div className="form-check d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
          <FormCheckInput
            id={`cutting-${kind}-pause`}
            className="mt-0"
            disabled={!ready}
            checked={pass.pause}
            onChange={(event) => passes({ pause: event.target.checked })}
          />
          <label htmlFor={`cutting-${kind}-pause`}>
            a pause between them: each pass is a layer and a pen of its own
          </label>
        </div>
      )}
    </li>
  );
}
