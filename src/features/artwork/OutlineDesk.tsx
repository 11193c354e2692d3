'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Spinner from 'react-bootstrap/Spinner';
import { useDropzone } from 'react-dropzone';

import type { CutLineRecipe } from '@/core/artwork';
import { CUT_FORMATS, FORMATS, mediaTypeOf, type CutFormat } from '@/core/drawing/formats';
import type { Room } from '@/core/sheetJob';
import type { LengthUnit } from '@/core/units';
import { Fold } from '@/ui/Fold';
import { useHydrated } from '@/ui/useHydrated';

import { AddPiece, type Shape } from './AddPiece';
import { KeepLine } from './KeepLine';
import { MakeJob, type SetupToChoose } from './MakeJob';
import {
  firstForm,
  formOf,
  largestSize,
  outlineAnswer,
  readOutlineForm,
  sizeSaid,
  type OutlineForm,
} from './outline.view';
import { OutlineFields } from './OutlineFields';
import { OutlinePicture } from './OutlinePicture';
import { useOutline } from './useOutline';

/** What the line is for: a job that is made of it, a piece more in one, or the line of a piece that is there. */
export type Purpose =
  | { readonly kind: 'job'; readonly setups: readonly SetupToChoose[]; readonly chosen: string | null }
  | {
      readonly kind: 'piece';
      readonly job: { readonly id: string; readonly version: number; readonly label: string };
      readonly shapes: readonly Shape[];
      readonly rooms: readonly Room[];
    }
  | {
      readonly kind: 'line';
      readonly job: { readonly id: string; readonly version: number; readonly label: string };
      readonly piece: string;
      readonly name: string;
      readonly recipe: CutLineRecipe;
      readonly rooms: readonly Room[];
    };

/** From artwork to a cut line: drop it, say how large, look, save, or make a job of it. */
export function OutlineDesk({ purpose, unit }: { purpose: Purpose; unit: LengthUnit }) {
  const ready = useHydrated();
  const [form, setForm] = useState<OutlineForm | null>(null);
  const read = useMemo(() => (form ? readOutlineForm(form, unit) : null), [form, unit]);
  const recipe = read?.ok ? read.recipe : null;
  const outline = useOutline(recipe);
  const { state, line, open } = outline;
  const drawn = state.kind === 'open' ? state : null;
  const opened = drawn?.opened ?? null;
  const [formed, setFormed] = useState<typeof opened>(null);
  if (opened !== formed) {
    setFormed(opened);
    if (opened)
      setForm(purpose.kind === 'line' ? formOf(purpose.recipe, opened, unit) : firstForm(opened, unit));
  }
  const [stock, setStock] = useState('#ffffff');
  const [setupId, setSetupId] = useState(
    purpose.kind === 'job' ? (purpose.chosen ?? purpose.setups[0]?.id ?? '') : '',
  );
  const [shape, setShape] = useState<Shape | null>(null);
  const rooms =
    purpose.kind === 'job' ? (purpose.setups.find((s) => s.id === setupId)?.rooms ?? []) : purpose.rooms;
  const own = purpose.kind === 'line' ? ownArt(purpose.job.id, purpose.piece) : null;
  useOwnArt(own, purpose.kind === 'line' ? purpose.name : '', open);

  const take = (taken: File): void => {
    setForm(null);
    void open(taken);
  };
  const drop = useDropzone({
    ...{ noClick: true, noKeyboard: true, multiple: false, disabled: own !== null },
    onDrop: ([dropped]) => dropped && take(dropped),
  });
  const answer = shape
    ? `It gets the line of ${shape.id}, ${shape.name}.`
    : line
      ? outlineAnswer(line, unit, recipe?.borderMm)
      : state.kind === 'refused'
        ? state.message
        : outline.message !== ''
          ? outline.message
          : state.kind === 'opening'
            ? `Reading ${state.name} …`
            : opened
              ? 'How large is it to be?'
              : own
                ? 'Fetching its artwork …'
                : 'Drop artwork: its outer edge becomes the cut line.';
  const shown = shape ? shape.line : line;
  const acts = drawn && opened && form && (
    <>
      {purpose.kind === 'job' && line && line.lines.length > 0 && recipe && (
        <MakeJob
          key={drawn.file.name}
          file={drawn.file}
          {...{ recipe, setupId }}
          setups={purpose.setups}
          onSetup={setSetupId}
        />
      )}
      {purpose.kind === 'piece' && (
        <AddPiece
          key={drawn.file.name}
          job={purpose.job}
          file={drawn.file}
          recipe={line && line.lines.length > 0 ? recipe : null}
          shapes={purpose.shapes}
          shape={shape}
          onShape={setShape}
        />
      )}
      {purpose.kind === 'line' && line && line.lines.length > 0 && recipe && (
        <KeepLine job={purpose.job} piece={purpose.piece} recipe={recipe} />
      )}
    </>
  );
  return (
    <div {...drop.getRootProps()} className={drop.isDragActive ? 'dropping' : undefined}>
      <div className="answer-row">
        <h1 className="answer" aria-live="polite">
          {answer}
        </h1>
        <span className="d-flex gap-2 align-items-center flex-shrink-0">
          {(outline.tracing || state.kind === 'opening') && (
            <>
              <Spinner size="sm" aria-hidden />
              <Button variant="plain" onClick={outline.stop}>
                Stop
              </Button>
            </>
          )}
          {!own && (
            <Button variant={opened ? 'plain' : 'main'} disabled={!ready} onClick={drop.open}>
              {opened ? 'Another picture' : 'Choose artwork'}
            </Button>
          )}
        </span>
      </div>
      {!own && (
        <input
          {...drop.getInputProps()}
          accept="image/png,image/jpeg,image/webp,image/tiff,image/svg+xml,application/pdf"
          aria-label="Artwork to trace"
        />
      )}
      {!own && !opened && <p className="small-print">PNG, JPEG, TIFF, WebP, SVG, or a PDF of one page.</p>}
      {drawn && opened && form && (
        <div className="two work-first">
          <div className="stack">
            {shown ? (
              <OutlinePicture url={drawn.url} line={shown} stock={stock} words={answer} />
            ) : (
              <p className="panel soft mb-0">{opened.name}: the picture is shown once its size is known.</p>
            )}
            {recipe && !shape && <SizeNote {...sizeSaid(opened, recipe, unit)} />}
          </div>
          <OutlineFields
            bare={shape !== null}
            form={form}
            was={purpose.kind === 'line' ? formOf(purpose.recipe, opened, unit) : null}
            errors={read?.ok === false ? read.errors : {}}
            line={line}
            largest={largestSize(opened, form, line, rooms, unit)}
            stock={stock}
            unit={unit}
            onStock={setStock}
            onChange={(change) => setForm({ ...form, ...change })}
          >
            {acts}
            {purpose.kind === 'job' && line && <SaveRow name={opened.name} save={outline.save} />}
          </OutlineFields>
        </div>
      )}
    </div>
  );
}

const ownArt = (jobId: string, piece: string): string => `/api/sheet-jobs/${jobId}/art.png?piece=${piece}`;

/** Opens the artwork that a piece has already. */
function useOwnArt(url: string | null, name: string, open: (file: File) => Promise<void>): void {
  const begun = useRef(false);
  useEffect(() => {
    if (url === null || begun.current) return;
    begun.current = true;
    void (async () => {
      const bytes = await fetch(url).then((r) => (r.ok ? r.blob() : null));
      if (bytes) await open(new File([bytes], name, { type: 'image/png' }));
    })();
  }, [url, name, open]);
}

function SizeNote({ words, coarse }: { words: string; coarse: string | null }) {
  return (
    <p className={coarse ? 'notice mb-0' : 'small-print mb-0'}>
      The whole picture: {words}.{coarse && ` ${coarse}`}
    </p>
  );
}

function SaveRow({ name, save }: { name: string; save: (format: CutFormat) => Promise<string | null> }) {
  const [failed, setFailed] = useState('');
  const hand = async (format: CutFormat): Promise<void> => {
    const content = await save(format).catch(() => null);
    setFailed(content === null ? 'The file could not be written. Change something, then try again.' : '');
    if (content === null) return;
    const url = URL.createObjectURL(new Blob([content], { type: mediaTypeOf(format) }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `${name.replace(/\.[^.]*$/, '')}-cut.${format}`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
  };
  return (
    <Fold name="outline-save" words="Save the cut line" usual="SVG, DXF, HPGL, PDF">
      <div className="d-flex gap-2 flex-wrap">
        {CUT_FORMATS.map((format) => (
          <Button key={format} variant="plain" onClick={() => void hand(format)}>
            {FORMATS[format].label}
          </Button>
        ))}
      </div>
      <p className="small-print mt-2 mb-0">
        Saved on the same page size as the picture: keep them together. “Correct a file” makes it ready for a
        rig.
      </p>
      {failed && <span className="field-error">{failed}</span>}
    </Fold>
  );
}
