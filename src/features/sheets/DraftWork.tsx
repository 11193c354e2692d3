'use client';

import {
  createContext,
  useContext,
  useEffect,
  useMemo,
  useState,
  useTransition,
  type ReactNode,
} from 'react';

import type { JobLayout, LineKind } from '@/core/sheetJob';
import { keeping, whyNotDone } from '@/features/forms/keeping';

import { changeSheetJob } from './actions';

/** What may be said of a piece without tracing it anew. */
export interface PieceLaid {
  readonly id: string;
  /** Null: fill the sheet; 0: left out. */
  readonly copies: number | null;
  readonly bleedMm: number;
  readonly kind: LineKind;
  readonly second: { readonly byMm: number; readonly kind: LineKind } | null;
}

/** Everything of a draft that is laid out by rule. */
export interface Laid {
  readonly name: string;
  readonly setupId: string;
  readonly layout: JobLayout;
  readonly pieces: readonly PieceLaid[];
}

interface Work {
  readonly laid: Laid;
  readonly pending: boolean;
  readonly change: (next: Laid) => void;
  readonly undo: (() => void) | null;
  readonly redo: (() => void) | null;
  /** The piece that was chosen in the picture. */
  readonly picked: Picked | null;
  readonly pick: (piece: Picked) => void;
}

interface Picked {
  readonly sheet: number;
  readonly index: number;
}

const Draft = createContext<Work | null>(null);

/** The draft that a part of the page works on; only below a `DraftWork`. */
export function useDraft(): Work {
  const work = useContext(Draft);
  if (!work) throw new Error('no draft is worked on here');
  return work;
}

/** A draft that is worked on: every change lays it out anew, and any of them can be undone. */
export function DraftWork({
  job,
  laid,
  children,
}: {
  job: { readonly id: string; readonly version: number };
  laid: Laid;
  children: ReactNode;
}) {
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  const [behind, setBehind] = useState<readonly Laid[]>([]);
  const [ahead, setAhead] = useState<readonly Laid[]>([]);
  const [picked, pick] = useState<Picked | null>(null);
  const work = useMemo((): Work => {
    const keep = (next: Laid, then: () => void): void =>
      start(async () => {
        const done = await keeping(
          ['sheet job', job.id, next],
          (stamp) => changeSheetJob({ jobId: job.id, ...next }, stamp),
          job.version,
        );
        setSaid(done.ok ? '' : whyNotDone(done));
        if (done.ok) then();
      });
    const [last, next] = [behind.at(-1), ahead.at(-1)];
    return {
      ...{ laid, pending, picked, pick },
      change: (to) =>
        keep(to, () => {
          setBehind([...behind, laid]);
          setAhead([]);
        }),
      undo: last
        ? () =>
            keep(last, () => {
              setBehind(behind.slice(0, -1));
              setAhead([...ahead, laid]);
            })
        : null,
      redo: next
        ? () =>
            keep(next, () => {
              setAhead(ahead.slice(0, -1));
              setBehind([...behind, laid]);
            })
        : null,
    };
  }, [job.id, job.version, laid, pending, picked, behind, ahead]);
  const { undo, redo } = work;
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const typing = (event.target as Element | null)?.matches('input, select, textarea');
      if (typing || pending || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      (event.shiftKey ? redo : undo)?.();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [pending, undo, redo]);
  return (
    <Draft value={work}>
      {said && (
        <p className="notice" role="alert">
          {said}
        </p>
      )}
      {children}
    </Draft>
  );
}

/** The same without what was nested or moved by hand: laid out anew it lies where the rule puts it. */
export function anew(laid: Laid, by: Partial<Laid> = {}): Laid {
  const { gapMm, centre, mayTurn, witness } = by.layout ?? laid.layout;
  return { ...laid, ...by, layout: { gapMm, centre, mayTurn, witness, nudged: [] } };
}
