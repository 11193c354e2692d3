'use client';

import {
  createContext,
  useContext,
  useEffect,
  useMemo,
  useOptimistic,
  useState,
  useTransition,
  type ReactNode,
} from 'react';

import type { JobLayout, LineKind } from '@/core/sheetJob';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useSessionState } from '@/ui/useSessionState';

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

interface Steps {
  readonly behind: readonly Laid[];
  readonly ahead: readonly Laid[];
}
const NO_STEPS: Steps = { behind: [], ahead: [] };
const MOST_STEPS = 40;

/** A step of before, with the pieces that came since as they are. */
export const onto = (step: Laid, now: Laid): Laid => ({
  ...step,
  pieces: now.pieces.map((piece) => step.pieces.find((p) => p.id === piece.id) ?? piece),
});

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
  // Adding artwork, going to a piece's line and back, or reloading leaves what can be undone.
  const [steps, setSteps] = useSessionState<Steps>(`steps-${job.id}`, NO_STEPS);
  const [picked, pick] = useState<Picked | null>(null);
  // What is pressed shows at once; when it is refused, what is kept shows again.
  const [shown, show] = useOptimistic(laid);
  const work = useMemo((): Work => {
    const { behind, ahead } = steps;
    const keep = (next: Laid, then: () => void): void =>
      start(async () => {
        show(next);
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
      ...{ laid: shown, pending, picked, pick },
      change: (to) => keep(to, () => setSteps({ behind: [...behind, laid].slice(-MOST_STEPS), ahead: [] })),
      undo: last
        ? () =>
            keep(onto(last, laid), () => setSteps({ behind: behind.slice(0, -1), ahead: [...ahead, laid] }))
        : null,
      redo: next
        ? () =>
            keep(onto(next, laid), () => setSteps({ ahead: ahead.slice(0, -1), behind: [...behind, laid] }))
        : null,
    };
  }, [job.id, job.version, laid, shown, show, pending, picked, steps, setSteps]);
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
