'use client';

import { useEffect, useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Spinner from 'react-bootstrap/Spinner';
import { useDropzone } from 'react-dropzone';

import { CUT_FORMATS, type CutFormat } from '@/core/formats/file/cutFormat';
import type { LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { firstForm, outlineAnswer, readOutlineForm, sizeSaid, type OutlineForm } from './outline.view';
import { OutlineFields } from './OutlineFields';
import { MakeJob } from './MakeJob';
import { OutlinePicture } from './OutlinePicture';
import { useOutline } from './useOutline';

/** From a picture to a cut line: drop it, say how large, look, save, or make a job of it. Until then nothing leaves this machine. */
export function OutlineDesk({
  setups,
  chosen,
  unit,
}: {
  /** On which a job could be made of it. */
  setups: readonly { readonly id: string; readonly words: string }[];
  chosen: string | null;
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [form, setForm] = useState<OutlineForm | null>(null);
  const read = useMemo(() => (form ? readOutlineForm(form, unit) : null), [form, unit]);
  const recipe = read?.ok ? read.recipe : null;
  const outline = useOutline(recipe);
  const { state, line } = outline;
  const opened = state.kind === 'open' ? state.opened : null;
  const [url, setUrl] = useState<string | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const [formed, setFormed] = useState<typeof opened>(null);
  if (opened !== formed) {
    setFormed(opened);
    if (opened) setForm(firstForm(opened, unit));
  }
  useEffect(() => (url === null ? undefined : () => URL.revokeObjectURL(url)), [url]);
  const [stock, setStock] = useState('#ffffff');

  const take = (taken: File): void => {
    setUrl(URL.createObjectURL(taken));
    setFile(taken);
    setForm(null);
    void outline.open(taken);
  };
  const drop = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([dropped]) => dropped && take(dropped),
  });
  const answer = line
    ? outlineAnswer(line, unit)
    : state.kind === 'refused'
      ? state.message
      : outline.message !== ''
        ? outline.message
        : state.kind === 'opening'
          ? `Reading ${state.name} …`
          : opened
            ? 'How large is it to be?'
            : 'Drop a picture: its outer edge becomes the cut line.';
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
          <Button variant={opened ? 'plain' : 'main'} disabled={!ready} onClick={drop.open}>
            {opened ? 'Another picture' : 'Choose a picture'}
          </Button>
        </span>
      </div>
      <input
        {...drop.getInputProps()}
        accept="image/png,image/jpeg,image/webp"
        aria-label="Picture to trace"
      />
      {opened && form && (
        <div className="two work-first">
          <div className="stack">
            {line && url ? (
              <OutlinePicture url={url} line={line} stock={stock} words={answer} />
            ) : (
              <p className="panel soft mb-0">{opened.name}: the picture is shown once its size is known.</p>
            )}
            {recipe && <SizeNote {...sizeSaid(opened, recipe, unit)} />}
            {line && line.lines.length > 0 && file && recipe && (
              <MakeJob key={file.name} {...{ file, recipe, setups, chosen }} />
            )}
            {line && <SaveRow name={opened.name} save={outline.save} />}
          </div>
          <OutlineFields
            form={form}
            errors={read?.ok === false ? read.errors : {}}
            line={line}
            stock={stock}
            unit={unit}
            onStock={setStock}
            onChange={(change) => setForm({ ...form, ...change })}
          />
        </div>
      )}
    </div>
  );
}

function SizeNote({ words, coarse }: { words: string; coarse: string | null }) {
  return (
    <p className={coarse ? 'notice mb-0' : 'small-print mb-0'}>
      The whole picture: {words}.{coarse && ` ${coarse}`}
    </p>
  );
}

const TYPES: Readonly<Record<CutFormat, string>> = {
  svg: 'image/svg+xml',
  dxf: 'image/vnd.dxf',
  hpgl: 'application/vnd.hp-hpgl',
};

function SaveRow({ name, save }: { name: string; save: (format: CutFormat) => Promise<string | null> }) {
  const [failed, setFailed] = useState('');
  const hand = async (format: CutFormat): Promise<void> => {
    const content = await save(format).catch(() => null);
    setFailed(content === null ? 'The file could not be written. Change something, then try again.' : '');
    if (content === null) return;
    const url = URL.createObjectURL(new Blob([content], { type: TYPES[format] }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `${name.replace(/\.[^.]*$/, '')}-cut.${format}`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
  };
  return (
    <section className="panel">
      <h2>Save the cut line</h2>
      <div className="d-flex gap-2 flex-wrap">
        {CUT_FORMATS.map((format) => (
          <Button key={format} variant="plain" onClick={() => void hand(format)}>
            {format.toUpperCase()}
          </Button>
        ))}
      </div>
      <p className="small-print mt-2 mb-0">
        Its page is the picture’s own, so line and picture lie alike. Correct it for a rig with “Correct a
        file”. Never move one of the two without the other.
      </p>
      {failed && <span className="field-error">{failed}</span>}
    </section>
  );
}
