'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';

import type { DeskFile } from './useFiles';

/** Many files come down as one archive. */
export function SaveAll({ files }: { files: readonly DeskFile[] }) {
  const [pending, setPending] = useState(false);
  const done = files.filter((f) => f.state === 'done');
  const working = files.filter((f) => f.state === 'working').length;
  const refused = files.length - done.length - working;
  const words = [
    `${done.length} of ${files.length} corrected`,
    ...(working > 0 ? [`${working} on the way`] : []),
    ...(refused > 0 ? [`${refused} not taken`] : []),
  ].join(', ');
  const save = async (): Promise<void> => {
    setPending(true);
    const { strToU8, zipSync } = await import('fflate');
    const named = new Map<string, Uint8Array>();
    for (const { answer } of done) named.set(freeName(named, answer.fileName), strToU8(answer.content));
    const zip = new Blob([new Uint8Array(zipSync(Object.fromEntries(named)))], { type: 'application/zip' });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(zip);
    link.download = 'corrected-files.zip';
    link.click();
    URL.revokeObjectURL(link.href);
    setPending(false);
  };
  return (
    <div className="d-flex gap-3 align-items-center flex-wrap mb-2">
      <h2 className="mb-0" aria-live="polite">
        {words}
      </h2>
      {done.length > 1 && (
        <Button variant="plain" disabled={pending} onClick={() => void save()}>
          Save all {done.length} as one ZIP
        </Button>
      )}
    </div>
  );
}

/** Two files of one name are both kept. */
function freeName(taken: ReadonlyMap<string, unknown>, name: string): string {
  if (!taken.has(name)) return name;
  const [, base, ending] = /^(.*?)(\.[^.]*)?$/.exec(name)!;
  for (let n = 2; ; n += 1) {
    const next = `${base}-${n}${ending ?? ''}`;
    if (!taken.has(next)) return next;
  }
}
