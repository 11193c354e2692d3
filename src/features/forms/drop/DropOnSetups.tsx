'use client';

import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

import { deskPath, holdFiles } from './heldFiles';

/**
 * Takes cut files dropped anywhere on it: on a setup (what has `data-setup`) for that one. While they are held over it
 * nothing moves; one fixed place says for whom they are.
 */
export default function DropOnSetups({ children }: { children: ReactNode }) {
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
      router.push(deskPath(setupAt(target)?.dataset.setup ?? null));
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
