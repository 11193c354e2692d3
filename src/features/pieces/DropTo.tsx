'use client';

import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useDropzone } from 'react-dropzone';

import { holdFiles } from './heldFiles';

const pathOf = (setupId: string | null): string => (setupId ? `/correct?setup=${setupId}` : '/correct');

/** A place that takes cut files and goes on to where they come back corrected; pressed, it asks which. */
export function DropTo({ setupId, children }: { setupId: string | null; children: ReactNode }) {
  const router = useRouter();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => {
      if (files.length === 0) return;
      holdFiles(files);
      router.push(pathOf(setupId));
    },
  });
  return (
    <div {...getRootProps({ className: `drop no-print${isDragActive ? ' over' : ''}`, role: undefined })}>
      <input {...getInputProps({ 'aria-label': 'Cut files' })} />
      <p className="mb-2">{children}</p>
      <Button variant="plain" onClick={open}>
        Choose files
      </Button>
    </div>
  );
}

/**
 * Takes cut files dropped anywhere on it: on a setup (what has `data-setup`) for that one. While they are held over it
 * nothing moves; one fixed place says for whom they are.
 */
export function DropOnSetups({ children }: { children: ReactNode }) {
  const router = useRouter();
  const [over, setOver] = useState<string | null>(null);
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDragOver: (event) => setOver(setupAt(event.target)?.dataset.words ?? null),
    onDrop: (files, _, event) => {
      if (files.length === 0) return;
      holdFiles(files);
      const target = 'target' in event ? event.target : null;
      router.push(pathOf(setupAt(target)?.dataset.setup ?? null));
    },
  });
  return (
    <div {...getRootProps()}>
      <input {...getInputProps({ 'aria-label': 'Cut files', tabIndex: -1 })} />
      {isDragActive && (
        <p className="drop-words" role="status">
          {over ? <strong>For {over}</strong> : 'Let go over the setup that they are for'}: they come back
          corrected.
        </p>
      )}
      {children}
    </div>
  );
}

const setupAt = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>('[data-setup]') : null;
