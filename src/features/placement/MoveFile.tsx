'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useDropzone } from 'react-dropzone';

import type { Affine } from '@/core/geometry';
import { FORMAT_WORDS } from '@/core/drawing/formats';

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'working'; readonly name: string }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'moved'; readonly name: string; readonly url: string };

const movedName = (name: string): string => name.replace(/(\.[^.]*)?$/, (ending) => `-moved${ending}`);

async function moved(file: File, undo: Affine): Promise<Blob | string> {
  const form = new FormData();
  form.set('file', file);
  form.set('map', JSON.stringify(undo));
  try {
    const answer = await fetch('/api/correct', { method: 'POST', body: form });
    if (answer.ok) return await answer.blob();
    return ((await answer.json()) as { error: { message: string } }).error.message;
  } catch {
    return 'The server did not answer. Nothing is lost: try again in a moment.';
  }
}

/** Takes a cut file and hands it back where the print lies; made anew whenever the figures change. */
export function MoveFile({ undo }: { undo: Affine }) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  // A file that was moved by other figures is not for this sheet any more.
  const [madeFor, setMadeFor] = useState(undo);
  if (madeFor !== undo) {
    setMadeFor(undo);
    setState({ kind: 'idle' });
  }
  const asked = useRef(0);
  const url = state.kind === 'moved' ? state.url : null;
  useEffect(() => () => (url === null ? undefined : URL.revokeObjectURL(url)), [url]);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => {
      if (!file) return;
      asked.current += 1;
      const mine = asked.current;
      setState({ kind: 'working', name: file.name });
      void moved(file, undo).then((got) => {
        // Another file was chosen meanwhile.
        if (mine !== asked.current) return;
        setState(
          typeof got === 'string'
            ? { kind: 'refused', message: got }
            : { kind: 'moved', name: movedName(file.name), url: URL.createObjectURL(got) },
        );
      });
    },
  });
  return (
    <>
      <div {...getRootProps({ className: `drop${isDragActive ? ' over' : ''}`, role: undefined })}>
        <input {...getInputProps({ 'aria-label': 'Cut file to move' })} />
        <p className="mb-2">Drop the cut file here: {FORMAT_WORDS}.</p>
        <Button variant="plain" onClick={open}>
          Choose a file
        </Button>
      </div>
      <p className="mb-0 mt-2" role="status">
        {state.kind === 'working' && `Moving ${state.name} …`}
        {state.kind === 'moved' && (
          <a className="btn btn-main" href={state.url} download={state.name}>
            Save {state.name}
          </a>
        )}
      </p>
      {state.kind === 'refused' && (
        <p className="field-error" role="alert">
          {state.message}
        </p>
      )}
    </>
  );
}
