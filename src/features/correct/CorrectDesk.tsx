'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useDropzone } from 'react-dropzone';

import { CUT_FORMATS, FORMATS, FORMAT_WORDS, type CutFormat } from '@/core/drawing/formats';
import type { LengthUnit } from '@/core/units';
import { takeHeldFiles } from '@/features/forms/drop/heldFiles';
import { FramePicture } from '@/ui/pictures/FramePicture';

import type { DeskSetup } from './correct.view';
import { FileRow } from './FileRow';
import { MachineShows } from './MachineShows';
import { SaveAll } from './SaveAll';
import { useFiles } from './useFiles';

const ACCEPT = Object.fromEntries(CUT_FORMATS.map((f) => [FORMATS[f].mediaType, [...FORMATS[f].suffixes]]));

/** Cut files for a setup: dropped, they come back corrected by what stands for it. */
export function CorrectDesk({
  setups,
  chosen,
  unit,
}: {
  /** Last used first. */
  setups: readonly DeskSetup[];
  chosen: string;
  unit: LengthUnit;
}) {
  const router = useRouter();
  const setup = setups.find((s) => s.id === chosen)!;
  const [to, setTo] = useState<CutFormat | 'same'>('same');
  const { files, take, retry, remove } = useFiles();
  const give = (list: readonly File[]): void =>
    take(list, { setupId: setup.id, to, own: false, again: false, cutAll: [] });
  useEffect(() => {
    const held = takeHeldFiles();
    if (held.length > 0) take(held, { setupId: chosen, to: 'same', own: false, again: false, cutAll: [] });
  }, [chosen, take]);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    accept: ACCEPT,
    onDrop: (accepted, rejected) => give([...accepted, ...rejected.map((r) => r.file)]),
  });
  // After the first file its rows are the news; the picture of an empty sheet is not.
  const empty = files.length === 0;
  const wrong = setup.show.some((s) => s.instead !== null);
  return (
    <div className="two work-first">
      <div className="stack">
        <section className="panel">
          <div className="row g-3">
            <div className="col-sm-8">
              <FormLabel htmlFor="for-setup">For</FormLabel>
              <FormSelect
                id="for-setup"
                value={setup.id}
                onChange={(e) => router.replace(`/correct?setup=${e.target.value}`)}
              >
                {setups.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.words}
                  </option>
                ))}
              </FormSelect>
            </div>
            <div className="col-sm-4">
              <FormLabel htmlFor="as-format">Give them back as</FormLabel>
              <FormSelect
                id="as-format"
                value={to}
                onChange={(e) => setTo(e.target.value as CutFormat | 'same')}
              >
                <option value="same">what they were</option>
                {CUT_FORMATS.map((format) => (
                  <option key={format} value={format}>
                    {FORMATS[format].label}
                  </option>
                ))}
              </FormSelect>
            </div>
          </div>
          <div {...getRootProps({ className: `drop drop-large mt-3${isDragActive ? ' over' : ''}` })}>
            <input {...getInputProps({ 'aria-label': 'Cut files' })} />
            <p className="mb-2">Drop cut files here: {FORMAT_WORDS}, one or many.</p>
            <Button variant={empty && !wrong ? 'main' : 'plain'} onClick={open}>
              Choose files
            </Button>
          </div>
          {setup.carries && <p className="small-print mt-2 mb-0">{setup.carries}</p>}
        </section>
        {wrong && <MachineShows key={setup.id} setup={setup} />}
        {!empty && (
          <section className="panel" aria-label="Files">
            <SaveAll files={files} />
            {files.map((file) => (
              <FileRow
                key={file.key}
                file={file}
                setup={setups.find((s) => s.id === file.given.setupId) ?? setup}
                unit={unit}
                alone={files.length === 1 && !wrong}
                onRetry={(said) => retry(file, said)}
                onRemove={() => remove(file.key)}
              />
            ))}
          </section>
        )}
      </div>
      <div className="stack side">
        {!wrong && <MachineShows key={setup.id} setup={setup} />}
        <section className="panel">
          <h2>How its files lie</h2>
          <p>
            {setup.lies ?? 'Not told yet: a file is taken only when the setup’s marks are drawn in it.'}{' '}
            <Link href={`/rigs/${setup.rigId}/edit#files`}>{setup.lies ? 'Change' : 'Tell it'}</Link>
          </p>
          <FramePicture
            {...setup.picture}
            lines={[]}
            bounds={null}
            label={`The sheet of ${setup.media}${setup.lies ? `, ${setup.lies}` : ''}`}
          />
        </section>
      </div>
    </div>
  );
}
