'use client';

import { useState } from 'react';

import { ActButton } from '@/features/forms/acts/ActButton';

/** Print, cut, read: what comes next is the red one. */
export function PrintActs({
  label,
  print,
  cut,
  cutWords,
  printed,
  session,
}: {
  label: string;
  /** Addresses of what is printed and what is cut. */
  print: string;
  cut: string;
  cutWords: string;
  /** It was said to be printed before. */
  printed: boolean;
  session: { readonly id: string; readonly version: number };
}) {
  const [opened, setOpened] = useState(printed);
  return (
    <div className="print-acts">
      <a
        className={`btn ${opened ? 'btn-plain' : 'btn-main big-act'}`}
        href={print}
        target="_blank"
        rel="noreferrer"
        onClick={() => setOpened(true)}
      >
        Print sheet {label}
      </a>
      <a className="btn btn-plain" href={cut} download onClick={() => setOpened(true)}>
        {cutWords}
      </a>
      <ActButton act="cut" session={session} words="It is cut: read it" main={opened} />
    </div>
  );
}
