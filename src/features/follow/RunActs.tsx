'use client';

import { PendingButton } from '@/ui/PendingButton';

import {
  openTheRunAgain,
  registeredAnew,
  restOrGoOn,
  sectionIsNotCut,
  slipIsKept,
  stepIsUndone,
  takeCheckBack,
} from './actions';
import { saying } from './saying';

export const NotCutButton = ({ runId, section }: { runId: string; section: number }) => (
  <PendingButton
    words={`Undo: section ${section} is not cut`}
    onPress={() => saying(['not cut', runId, section], (stamp) => sectionIsNotCut(runId, section, stamp))}
  />
);

export const RegisterButton = ({ runId, before, main }: { runId: string; before: number; main: boolean }) => (
  <PendingButton
    words={`Registered anew before section ${before}`}
    main={main}
    wide
    onPress={() => saying(['register', runId, before], (stamp) => registeredAnew(runId, before, stamp))}
  />
);

const UNDO_WORDS = {
  registered: 'it was not registered anew',
  'slip-kept': 'the slip is not kept',
  laminated: 'it was not laminated',
} as const;

/** Takes the newest registration, kept slip or laminate back. */
export const UndoButton = ({
  runId,
  event,
}: {
  runId: string;
  event: { readonly id: string; readonly kind: keyof typeof UNDO_WORDS; readonly section: number | null };
}) => (
  <PendingButton
    words={`Undo: ${UNDO_WORDS[event.kind]}${event.section === null ? '' : `, section ${event.section}`}`}
    onPress={() => saying(['undo', event.id], (stamp) => stepIsUndone(runId, event.id, stamp))}
  />
);

export const KeepSlipButton = ({
  runId,
  slip,
}: {
  runId: string;
  slip: {
    readonly axis: 'along' | 'across';
    readonly sizeMm: number;
    readonly after: { readonly section: number; readonly place: 'first row' | 'last row' };
  };
}) => (
  <PendingButton
    words="Keep it: the files make up for it"
    wide
    onPress={() =>
      saying(['slip', runId, slip], (stamp) =>
        slipIsKept(runId, { axis: slip.axis, ...slip.after, sizeMm: slip.sizeMm }, stamp),
      )
    }
  />
);

export const RestButton = ({ runId, rest }: { runId: string; rest: boolean }) => (
  <PendingButton
    words={rest ? 'Rest until another day' : 'Go on with the run'}
    main={!rest}
    onPress={() => saying(['rest', runId, rest], (stamp) => restOrGoOn(runId, rest, stamp))}
  />
);

export const TakeBackButton = ({ runId, checkId }: { runId: string; checkId: string }) => (
  <PendingButton
    words="Take back"
    onPress={() => saying(['take back', checkId], (stamp) => takeCheckBack(runId, checkId, stamp))}
  />
);

export const ReopenButton = ({ runId }: { runId: string }) => (
  <PendingButton
    words="Open it again"
    onPress={() => saying(['open again', runId], (stamp) => openTheRunAgain(runId, stamp))}
  />
);
