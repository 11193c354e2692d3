'use client';

import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState } from 'react';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';
import type { CutFormat } from '@/core/drawing/formats';

import { makeFile, sectionIsCut } from '../actions';
import { saying } from '../saying';

interface MadeFile {
  readonly id: string;
  readonly fileName: string;
}

/** Makes a section's file and hands it to the browser. */
function FileButton({
  runId,
  section,
  format,
  onMade,
}: {
  runId: string;
  section: number;
  format: CutFormat;
  onMade: (file: MadeFile) => void;
}) {
  const press = async (): Promise<string | undefined> => {
    const given = { runId, section, format };
    const made = await keeping(['file', given], (stamp) => makeFile(given, stamp));
    if (!made.ok) return whyNotDone(made);
    const url = URL.createObjectURL(new Blob([made.value.content], { type: 'application/octet-stream' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = made.value.fileName;
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
    onMade({ id: made.value.fileId, fileName: made.value.fileName });
    return undefined;
  };
  return <PendingButton words={format.toUpperCase()} onPress={press} />;
}

/** The files of a section, and “it is cut”: with the one that was loaded, of several the chosen one, or as drawn. */
export function SectionFiles({
  runId,
  section,
  files,
  formats,
  main,
}: {
  runId: string;
  section: number;
  /** What was made for it, newest first. */
  files: readonly MadeFile[];
  /** In which it can be had. */
  formats: readonly CutFormat[];
  main: boolean;
}) {
  // Made from here a moment ago: the page hears of it later.
  const [own, setOwn] = useState<readonly MadeFile[]>([]);
  const all = [...own.filter((o) => !files.some((f) => f.id === o.id)), ...files];
  const [chosen, setChosen] = useState<string | null>(null);
  const fileId = all.find((f) => f.id === chosen)?.id ?? all[0]?.id ?? null;
  const say = (id: string | null) =>
    saying(['cut', runId, section, id], (stamp) => sectionIsCut({ runId, section, fileId: id }, stamp));
  return (
    <div className="stack" style={{ gap: 8 }}>
      <div className="d-flex flex-wrap gap-2 mb-1">
        {formats.map((f) => (
          <FileButton
            key={f}
            runId={runId}
            section={section}
            format={f}
            onMade={(file) => setOwn((list) => [file, ...list])}
          />
        ))}
      </div>
      {all.length === 1 && <p className="small-print mono text-break mb-0">{all[0]!.fileName}</p>}
      {all.length > 1 && (
        <div>
          <FormLabel htmlFor="loaded-file">The file that was loaded</FormLabel>
          <FormSelect
            id="loaded-file"
            className="mono"
            value={fileId ?? ''}
            onChange={(event) => setChosen(event.target.value)}
          >
            {all.map((f) => (
              <option key={f.id} value={f.id}>
                {f.fileName}
              </option>
            ))}
          </FormSelect>
        </div>
      )}
      <PendingButton
        words={`Section ${section} is cut with its file`}
        main={main}
        wide
        onPress={() =>
          fileId === null
            ? Promise.resolve(
                `No corrected file of section ${section} was made yet. Make it, cut with it, then say so.`,
              )
            : say(fileId)
        }
      />
      <PendingButton words={`Section ${section} is cut, as drawn`} wide onPress={() => say(null)} />
    </div>
  );
}
