'use client';

import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState, type DragEvent } from 'react';

import {
  CUT_FORMATS,
  FILE_LIMIT_BYTES,
  type CorrectedFile,
  type CutFormat,
  type FileReport,
} from '@/core/formats/file';
import { affineMap, type Affine } from '@/core/geometry';
import { fixed, lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import type { FileWorker } from '@/workers/file.worker';

import { MovedPreview } from './MovedPreview';

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working'; readonly name: string; readonly share: number }
  | { readonly kind: 'refused'; readonly name: string; readonly message: string }
  | {
      readonly kind: 'done';
      readonly name: string;
      readonly result: CorrectedFile;
      readonly url: string;
      readonly logged: boolean;
    };

const MEGABYTE = 1024 * 1024;

/** Takes a cut file, corrects it in a worker, shows what moved and gives it back. */
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
  const [to, setTo] = useState<CutFormat | 'same'>('same');
  const worker = useRef<{ raw: Worker; api: Remote<FileWorker> } | null>(null);
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
    if (file.size > FILE_LIMIT_BYTES)
      return setState({
        kind: 'refused',
        name: file.name,
        message: `The file has ${Math.round(file.size / MEGABYTE)} MB; at most ${FILE_LIMIT_BYTES / MEGABYTE} MB can be corrected. Split it into parts.`,
      });
    setState({ kind: 'working', name: file.name, share: 0 });
    const text = await file.text();
    if (!worker.current) {
      const raw = new Worker(new URL('../../../workers/file.worker.ts', import.meta.url), { type: 'module' });
      worker.current = { raw, api: wrap<FileWorker>(raw) };
    }
    const outcome = await worker.current.api.correct(
      text,
      affineMap(transform),
      to === 'same' ? null : to,
      proxy((share: number) => {
        if (turn === latest.current) setState({ kind: 'working', name: file.name, share });
      }),
    );
    if (turn !== latest.current) return;
    if (!outcome.ok) return setState({ kind: 'refused', name: file.name, message: outcome.message });
    const handedOver =
      correctionId === null ? outcome.value.content : await keptFile(file, correctionId, restOnly, to);
    if (turn !== latest.current) return;
    if (typeof handedOver !== 'string')
      return setState({ kind: 'refused', name: file.name, message: handedOver.message });
    const url = URL.createObjectURL(new Blob([handedOver], { type: 'application/octet-stream' }));
    setState({ kind: 'done', name: file.name, result: outcome.value, url, logged: correctionId !== null });
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
        <FormLabel htmlFor="cut-file">
          Drop a cut file here: SVG, DXF or HPGL{restOnly ? ', to put the rest in' : ''}
        </FormLabel>
        <FormControl
          id="cut-file"
          type="file"
          accept=".svg,.dxf,.hpgl,.hpg,.hgl,.plt,image/svg+xml"
          onChange={(e) => {
            const { files } = e.target as HTMLInputElement;
            if (files?.[0]) void take(files[0]);
            e.target.value = '';
          }}
        />
        <FormLabel htmlFor="cut-format" className="mt-2">
          Give it back as
        </FormLabel>
        <FormSelect id="cut-format" value={to} onChange={(e) => setTo(e.target.value as CutFormat | 'same')}>
          <option value="same">what it was</option>
          {CUT_FORMATS.map((format) => (
            <option key={format} value={format}>
              {format.toUpperCase()}
            </option>
          ))}
        </FormSelect>
      </div>
      {state.kind === 'working' && (
        <p className="mt-2 mb-0" role="status">
          Correcting {state.name}, {Math.round(100 * state.share)} %{' '}
          <progress
            max={1}
            value={state.share}
            aria-label={`Correcting ${state.name}`}
            className="align-middle"
          />{' '}
          <Button variant="plain" onClick={cancel}>
            Cancel
          </Button>
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

/**
 * The file as the log has it, made by the server from the stored correction: this one is handed over. What the worker made
 * is the picture of it.
 */
async function keptFile(
  file: File,
  correctionId: string,
  restOnly: boolean,
  to: CutFormat | 'same',
): Promise<string | { readonly message: string }> {
  const body = new FormData();
  body.set('file', file);
  body.set('correction', correctionId);
  body.set('rest', String(restOnly));
  if (to !== 'same') body.set('to', to);
  const answer = await fetch('/api/correct', { method: 'POST', body }).catch(() => null);
  if (answer?.ok) return answer.text();
  const said = (await answer?.json().catch(() => null)) as
    { error?: { message?: unknown } } | null | undefined;
  const why = said?.error?.message;
  return {
    message: `It could not be kept in the log, so it is not handed over. ${typeof why === 'string' ? why : 'The server does not answer; drop it again in a moment.'}`,
  };
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
  const { report, outlines } = state.result;
  const fileName = `${state.name.replace(/\.[a-z0-9]{1,5}$/i, '')}-corrected-${sheetLabel}.${report.to}`;
  const size = (b: FileReport['boundsBefore']): string =>
    `${lengthFigure(b.x1 - b.x0, unit)} × ${lengthText(b.y1 - b.y0, unit)}`;
  const rows = [
    ['paths', String(report.paths)],
    ['cut length', cutLength(report.lengthMm, unit)],
    ['size as drawn', size(report.boundsBefore)],
    ['size as written', size(report.boundsAfter)],
    ['farthest move', lengthText(report.farthestMoveMm, unit)],
  ] as const;
  return (
    <div className="mt-2" role="status">
      <a className="btn btn-plain w-100" href={state.url} download={fileName}>
        Save {fileName}
      </a>
      <table className="rows rows-tight my-2">
        <tbody>
          {rows.map(([what, figure]) => (
            <tr key={what}>
              <th scope="row">{what}</th>
              <td className="num">{figure}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {state.logged && <p className="small-print mb-1">Kept in the log.</p>}
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
      <MovedPreview outlines={outlines} report={report} unit={unit} />
    </div>
  );
}

const cutLength = (mm: number, unit: LengthUnit): string =>
  unit === 'mm' ? `${fixed(mm / 1000, 2)} m` : `${fixed(mm / 304.8, 1)} ft`;
