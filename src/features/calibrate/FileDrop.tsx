'use client';

import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState, type DragEvent } from 'react';

import type { CorrectedSvg } from '@/core/formats/svg';
import type { Affine } from '@/core/geometry';
import { lengthText, type LengthUnit } from '@/core/units';
import type { SvgWorker } from '@/workers/svg.worker';

import { MovedPreview } from './MovedPreview';

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working'; readonly name: string }
  | { readonly kind: 'refused'; readonly name: string; readonly message: string }
  | {
      readonly kind: 'done';
      readonly name: string;
      readonly result: CorrectedSvg;
      readonly url: string;
      readonly logged: boolean;
    };

const MOST_BYTES = 32 * 1024 * 1024;

/** Takes an SVG cut file, corrects it in a worker, shows what moved and gives it back. */
export function FileDrop({
  transform,
  correctionId,
  restOnly,
  sheetLabel,
  unit,
}: {
  transform: Affine;
  correctionId: string | null;
  restOnly: boolean;
  sheetLabel: string;
  unit: LengthUnit;
}) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const [over, setOver] = useState(false);
  const worker = useRef<{ raw: Worker; api: Remote<SvgWorker> } | null>(null);
  const latest = useRef(0);
  useEffect(() => () => worker.current?.raw.terminate(), []);

  const cancel = (): void => {
    worker.current?.raw.terminate();
    worker.current = null;
    latest.current += 1;
    setState({ kind: 'idle' });
  };

  const take = async (file: File): Promise<void> => {
    const turn = (latest.current += 1);
    if (file.size > MOST_BYTES)
      return setState({
        kind: 'refused',
        name: file.name,
        message: `The file has ${Math.round(file.size / 1048576)} MB; at most 32 MB can be corrected. Split it into parts.`,
      });
    setState({ kind: 'working', name: file.name });
    const text = await file.text();
    if (!worker.current) {
      const raw = new Worker(new URL('../../workers/svg.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { raw, api: wrap<SvgWorker>(raw) };
    }
    const outcome = await worker.current.api.correct(text, transform);
    if (turn !== latest.current) return;
    if (!outcome.ok) return setState({ kind: 'refused', name: file.name, message: outcome.message });
    const url = URL.createObjectURL(new Blob([outcome.value.svg], { type: 'image/svg+xml' }));
    const done = { kind: 'done', name: file.name, result: outcome.value, url } as const;
    setState({ ...done, logged: false });
    if (correctionId === null) return;
    const logged = await logFile(file, correctionId, restOnly);
    if (turn === latest.current) setState({ ...done, logged });
  };

  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) void take(file);
  };

  return (
    <div>
      <div
        className={`drop ${over ? 'over' : ''}`}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <label htmlFor="cut-file" className="form-label">
          Drop an SVG cut file here{restOnly ? ' to put the rest in' : ''}
        </label>
        <input
          id="cut-file"
          type="file"
          accept=".svg,image/svg+xml"
          className="form-control"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void take(file);
            e.target.value = '';
          }}
        />
      </div>
      {state.kind === 'working' && (
        <p className="mt-2 mb-0" role="status">
          Correcting {state.name} …{' '}
          <button type="button" className="btn btn-plain" onClick={cancel}>
            Cancel
          </button>
        </p>
      )}
      {state.kind === 'refused' && (
        <p className="notice notice-bad mt-2 mb-0" role="alert">
          {state.name}: {state.message}
        </p>
      )}
      {state.kind === 'done' && <Done state={state} sheetLabel={sheetLabel} unit={unit} />}
    </div>
  );
}

/** The file goes into the log with the session; the server corrects it again by itself. */
async function logFile(file: File, correctionId: string, restOnly: boolean): Promise<boolean> {
  const body = new FormData();
  body.set('file', file);
  body.set('correction', correctionId);
  body.set('rest', String(restOnly));
  return fetch('/api/correct', { method: 'POST', body }).then(
    (r) => r.ok,
    () => false,
  );
}

function Done({
  state,
  sheetLabel,
  unit,
}: {
  state: State & { kind: 'done' };
  sheetLabel: string;
  unit: LengthUnit;
}) {
  const { report, moved } = state.result;
  const fileName = state.name.replace(/(\.svg)?$/i, `-corrected-${sheetLabel}.svg`);
  return (
    <div className="mt-2" role="status">
      <a className="btn btn-plain w-100" href={state.url} download={fileName}>
        Save {fileName}
      </a>
      <p className="small-print mt-2 mb-1">
        {report.paths} paths, {report.shapesConverted} of them from shapes; page{' '}
        {report.pageWidthMm.toFixed(1)} × {report.pageHeightMm.toFixed(1)} mm; the farthest point moved{' '}
        {lengthText(report.farthestMoveMm, unit)}. {state.logged && 'Kept in the log.'}
      </p>
      {report.notes.length > 0 && (
        <ul className="small-print mb-1">
          {report.notes.map((n) => (
            <li key={n.what}>
              {n.count > 1 ? `${n.count} × ` : ''}
              {n.what}
            </li>
          ))}
        </ul>
      )}
      <MovedPreview moved={moved} report={report} />
    </div>
  );
}
