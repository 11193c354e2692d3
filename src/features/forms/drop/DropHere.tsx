'use client';

import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useDropzone } from 'react-dropzone';

import { deskPath, holdFiles } from './heldFiles';

/** A place that takes cut files and goes on to where they come back corrected; pressed, it asks which. */
export default function DropHere({ setupId, children }: { setupId: string | null; children: ReactNode }) {
  const router = useRouter();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => {
      if (files.length === 0) return;
      holdFiles(files);
      router.push(deskPath(setupId));
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
