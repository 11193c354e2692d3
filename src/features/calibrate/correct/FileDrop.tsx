'use client';

import { noteText } from '@/core/drawing/notes';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useEffect, useRef, useState, type DragEvent } from 'react';

import { FILE_LIMIT_BYTES, type CorrectedFile, type FileReport } from '@/core/drawing/file';
import { lengthFigure, lengthText, type LengthUnit, longText } from '@/core/units';
import {
  FORMAT_WORDS,
  CUT_FILE_SUFFIXES,
  FORMATS,
  CUT_FORMATS,
  type CutFormat,
} from '@/core/drawing/formats';

import { MovedPreview } from './MovedPreview';

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working'; readonly name: string }
  | { readonly kind: 'refused'; readonly name: string; readonly message: string }
  | {
      readonly kind: 'done';
      readonly name: string;
      readonly result: CorrectedFile;
      readonly url: string;
    };

const MEGABYTE = 1024 * 1024;

/**
 * Takes a cut file, has it corrected from the stored correction and kept in the log, shows what moved and hands over that
 * file: it is made once, by the server.
 */
export function FileDrop({
  correctionId,
  restOnly,
  sheetLabel,
  unit,
}: {
  correctionId: string;
  restOnly: boolean;
  sheetLabel: string;
  unit: LengthUnit;
}) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const [over, setOver] = useState(false);
  const [to, setTo] = useState<CutFormat | 'same'>('same');
  const asking = useRef<AbortController | null>(null);
  useEffect(() => () => asking.current?.abort(), []);

  const cancel = (): void => {
    asking.current?.abort();
    asking.current = null;
    setState({ kind: 'idle' });
  };

  const take = async (file: File): Promise<void> => {
    asking.current?.abort();
    const mine = new AbortController();
    asking.current = mine;
    if (file.size > FILE_LIMIT_BYTES)
      return setState({
        kind: 'refused',
        name: file.name,
        message: `The file has ${Math.round(file.size / MEGABYTE)} MB; at most ${FILE_LIMIT_BYTES / MEGABYTE} MB can be corrected. Split it into parts.`,
      });
    setState({ kind: 'working', name: file.name });
    const made = await corrected(file, correctionId, restOnly, to, mine.signal);
    // Another file was dropped meanwhile, or this one cancelled.
    if (asking.current !== mine) return;
    if ('message' in made) return setState({ kind: 'refused', name: file.name, message: made.message });
    const url = URL.createObjectURL(new Blob([made.content], { type: 'application/octet-stream' }));
    setState({ kind: 'done', name: file.name, result: made, url });
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
          Drop a cut file here: {FORMAT_WORDS}
          {restOnly ? ', to put the rest in' : ''}
        </FormLabel>
        <FormControl
          id="cut-file"
          type="file"
          accept={CUT_FILE_SUFFIXES.join(',')}
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
              {FORMATS[format].label}
            </option>
          ))}
        </FormSelect>
      </div>
      {state.kind === 'working' && (
        <p className="mt-2 mb-0" role="status">
          Correcting {state.name}{' '}
          <progress aria-label={`Correcting ${state.name}`} className="align-middle" />{' '}
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

/** The file as the log has it, made by the server from the stored correction; or why there is none. */
async function corrected(
  file: File,
  correctionId: string,
  restOnly: boolean,
  to: CutFormat | 'same',
  signal: AbortSignal,
): Promise<CorrectedFile | { readonly message: string }> {
  const body = new FormData();
  body.set('file', file);
  body.set('correction', correctionId);
  body.set('rest', String(restOnly));
  body.set('answer', 'whole');
  // As the rig’s page says; where nobody told, its own axes are the sheet’s.
  body.set('frame', 'setup');
  if (to !== 'same') body.set('to', to);
  const answer = await fetch('/api/correct', { method: 'POST', body, signal }).catch(() => null);
  if (answer?.ok) return (await answer.json()) as CorrectedFile;
  const said = (await answer?.json().catch(() => null)) as
    { error?: { message?: unknown } } | null | undefined;
  const why = said?.error?.message;
  return {
    message: typeof why === 'string' ? why : 'The server does not answer; drop it again in a moment.',
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
    ['cut length', longText(report.lengthMm, unit)],
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
      <p className="small-print mb-1">Kept in the log.</p>
      {report.notes.length > 0 && (
        <ul className="small-print mb-1">
          {report.notes.map((n) => (
            <li key={n.what}>{noteText(n)}</li>
          ))}
        </ul>
      )}
      <MovedPreview outlines={outlines} report={report} unit={unit} />
    </div>
  );
}
