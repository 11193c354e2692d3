'use client';

import { SETTLED_WORDS } from '@/core/daily/frameWords';
import { noteText } from '@/core/drawing/notes';
import { X } from 'lucide-react';
import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import Spinner from 'react-bootstrap/Spinner';

import { lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import type { DailyAnswer } from '@/server/files/dailyFile';
import { FramePicture } from '@/ui/pictures/FramePicture';

import { layersToCut, overWords, type DeskSetup } from './correct.view';
import type { DeskFile, Given } from './useFiles';

/** One file: on its way, not taken and why, or corrected, with where it lies and what was changed. */
export function FileRow({
  file,
  setup,
  unit,
  alone,
  onRetry,
  onRemove,
}: {
  file: DeskFile;
  setup: DeskSetup;
  unit: LengthUnit;
  /** The only one: saving it is what there is to do. */
  alone: boolean;
  onRetry: (said: Partial<Given>) => void;
  onRemove: () => void;
}) {
  return (
    <section className="file-row" aria-label={file.file.name}>
      <header>
        <h3>{file.file.name}</h3>
        <span className="small-print">for {setup.words}</span>
        <Button
          variant="plain"
          className="ms-auto"
          aria-label={`${file.state === 'working' ? 'Cancel' : 'Take off the list'}: ${file.file.name}`}
          onClick={onRemove}
        >
          <X size={18} aria-hidden />
        </Button>
      </header>
      {file.state === 'working' && (
        <p className="mb-0" role="status">
          <Spinner as="span" size="sm" aria-hidden /> Correcting {file.file.name} …
        </p>
      )}
      {file.state === 'refused' && <Refused file={file} setup={setup} onRetry={onRetry} />}
      {file.state === 'done' && (
        <Done
          answer={file.answer}
          url={file.url}
          setup={setup}
          unit={unit}
          alone={alone}
          cutToo={file.given.cutAll}
          onCutToo={(cutAll) => onRetry({ cutAll })}
        />
      )}
    </section>
  );
}

function Refused({
  file,
  setup,
  onRetry,
}: {
  file: DeskFile & { state: 'refused' };
  setup: DeskSetup;
  onRetry: (said: Partial<Given>) => void;
}) {
  return (
    <>
      <p className="notice notice-bad mb-2" role="alert">
        {file.message}
      </p>
      <div className="d-flex gap-2 flex-wrap">
        {file.code === 'where-it-lies' && (
          <>
            <Link className="btn btn-plain" href={`/rigs/${setup.rigId}/edit#files`}>
              Tell how its files lie
            </Link>
            <Button variant="plain" onClick={() => onRetry({ own: true })}>
              Its x runs right, its y further, its zero is the near left corner
            </Button>
          </>
        )}
        {file.code === 'corrected-already' && (
          <Button variant="plain" onClick={() => onRetry({ again: true })}>
            Correct it once more all the same
          </Button>
        )}
        {file.code === 'away' && (
          <Button variant="plain" onClick={() => onRetry({})}>
            Try again
          </Button>
        )}
      </div>
    </>
  );
}

function Done({
  answer,
  url,
  setup,
  unit,
  alone,
  cutToo,
  onCutToo,
}: {
  answer: DailyAnswer;
  url: string;
  setup: DeskSetup;
  unit: LengthUnit;
  alone: boolean;
  /** Layers that are cut although the file hides them. */
  cutToo: readonly string[];
  onCutToo: (layers: readonly string[]) => void;
}) {
  const { report, lies } = answer;
  const over = overWords(lies.overMm, unit);
  const b = lies.bounds;
  return (
    <div className="file-done">
      <div>
        <a className={`btn ${alone ? 'btn-main' : 'btn-plain'}`} href={url} download={answer.fileName}>
          Save {answer.fileName}
        </a>
        <p className="mt-2 mb-1">
          {answer.changed
            ? `Its farthest point moves ${lengthText(report.farthestMoveMm, unit)}. `
            : 'Unchanged: no correction needed in the file. '}
          {SETTLED_WORDS[lies.by]}
          {lies.marksAgree && ' The marks drawn in it agree.'}
        </p>
        {lies.marksDiffer && (
          <p className="notice mb-1">
            The marks drawn in it say otherwise than the rig’s page; they are followed. Look at the picture.
          </p>
        )}
        {over && <p className="notice mb-1">{over}</p>}
        <p className="small-print mb-1">
          {report.paths === 1 ? '1 line' : `${report.paths} lines`}, {lengthFigure(b.x1 - b.x0, unit)} ×{' '}
          {lengthText(b.y1 - b.y0, unit)}. Kept in the log.
        </p>
        {layersToCut(report).map((layer) => (
          <Button
            key={layer}
            variant="plain"
            size="sm"
            className="me-2 mb-1"
            onClick={() => onCutToo([...cutToo, layer])}
          >
            Cut “{layer}” all the same
          </Button>
        ))}
        {cutToo.map((layer) => (
          <Button
            key={layer}
            variant="plain"
            size="sm"
            className="me-2 mb-1"
            onClick={() => onCutToo(cutToo.filter((other) => other !== layer))}
          >
            Undo: leave “{layer}” uncut
          </Button>
        ))}
        {report.notes.length > 0 && (
          <ul className="small-print mb-1">
            {report.notes.map((n) => (
              <li key={n.what}>{noteText(n)}</li>
            ))}
          </ul>
        )}
      </div>
      <FramePicture
        {...setup.picture}
        map={lies.map}
        lines={answer.outlines.map((o) => o.before)}
        bounds={lies.bounds}
        label={`${answer.fileName} on the sheet`}
      />
    </div>
  );
}
