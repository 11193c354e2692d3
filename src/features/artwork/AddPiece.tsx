'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { CutLine, CutLineRecipe } from '@/core/artwork';
import { keeping } from '@/features/forms/keeping';

import { sendArt } from './sendArt';

/** A piece of the job whose line may be used again. */
export interface Shape {
  readonly id: string;
  readonly name: string;
  readonly line: {
    readonly trace: Pick<CutLine['trace'], 'widthMm' | 'heightMm'>;
    readonly lines: CutLine['lines'];
  };
}

/** Artwork more in a job: with its own line, or with that of a piece of the same shape. */
export function AddPiece({
  job,
  file,
  recipe,
  shapes,
  shape,
  onShape,
}: {
  job: { readonly id: string; readonly version: number; readonly label: string };
  file: File;
  /** Null while it has no line of its own. */
  recipe: CutLineRecipe | null;
  shapes: readonly Shape[];
  shape: Shape | null;
  onShape: (shape: Shape | null) => void;
}) {
  const router = useRouter();
  const [copies, setCopies] = useState('1');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const many = copies.trim() === '' ? null : Number(copies);
  const sound = many === null || (Number.isInteger(many) && many >= 0);
  const add = (): void =>
    start(async () => {
      setSaid('');
      const piece = { copies: many, ...(shape ? { lineOf: shape.id } : { recipe }) };
      const made = await keeping(['piece', job.id, file.name, file.size, piece], ({ request }) =>
        sendArt<{ piece: string }>(`/api/sheet-jobs/${job.id}/pieces`, file, {
          piece: JSON.stringify(piece),
          version: String(job.version),
          request,
        }),
      );
      if (made.ok) router.push(`/jobs/sheets/${job.id}`);
      else setSaid(made.message);
    });
  return (
    <form
      className="panel stack"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <h2 className="mb-0">Add it to {job.label}</h2>
      <div>
        <FormLabel htmlFor="piece-line">Its line</FormLabel>
        <FormSelect
          id="piece-line"
          value={shape?.id ?? ''}
          onChange={(event) => onShape(shapes.find((s) => s.id === event.target.value) ?? null)}
        >
          <option value="">traced from it</option>
          {shapes.map((s) => (
            <option key={s.id} value={s.id}>
              that of {s.id}, {s.name}
            </option>
          ))}
        </FormSelect>
        <p className="small-print mt-1 mb-0">
          Light on white? Add a darker copy of the same artwork first, leave that out (0 copies), and give the
          light one its line.
        </p>
      </div>
      <div>
        <FormLabel htmlFor="piece-copies">Copies</FormLabel>
        <FormControl
          id="piece-copies"
          className="mono"
          autoComplete="off"
          placeholder="fill the sheet"
          value={copies}
          aria-invalid={!sound}
          aria-describedby={sound ? undefined : 'piece-copies-say'}
          onChange={(event) => setCopies(event.target.value)}
        />
        {!sound && (
          <span id="piece-copies-say" className="field-error">
            A whole number, or nothing to fill the sheet.
          </span>
        )}
      </div>
      <div>
        <Button type="submit" variant="main" disabled={pending || !sound || !(shape ?? recipe)}>
          {pending ? 'Laying it out …' : 'Add it'}
        </Button>
      </div>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}
