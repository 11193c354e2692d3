'use client';

import { PendingButton } from '@/ui/PendingButton';

import {
  openTheRunAgain,
  registeredAnew,
  restOrGoOn,
  sectionIsNotCut,
  slipIsKept,
  standingIsDecided,
  stepIsUndone,
  takeCheckBack,
} from './actions';
import { saying } from './saying';

export const NotCutButton = ({ runId, section }: { runId: string; section: number }) => (
  <PendingButton
    words={`Undo: section ${section} is not cut`}
    onPress={() => saying(['not cut', runId, section], (stamp) => sectionIsNotCut({ runId, section }, stamp))}
  />
);

export const RegisterButton = ({ runId, before, main }: { runId: string; before: number; main: boolean }) => (
  <PendingButton
    words={`Marks read again before section ${before}`}
    main={main}
    wide
    onPress={() => saying(['register', runId, before], (stamp) => registeredAnew({ runId, before }, stamp))}
  />
);

const UNDO_WORDS = {
  registered: 'it was not registered anew',
  'slip-kept': 'the slip is not kept',
  standing: 'which correction its files carry is open again',
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
    onPress={() => saying(['undo', event.id], (stamp) => stepIsUndone({ runId, eventId: event.id }, stamp))}
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
        slipIsKept({ runId, axis: slip.axis, ...slip.after, sizeMm: slip.sizeMm }, stamp),
      )
    }
  />
);

/** Which correction of the setup the files to come carry. */
export const StandingButton = ({
  runId,
  standingId,
  take,
}: {
  runId: string;
  standingId: string;
  take: boolean;
}) => (
  <PendingButton
    words={take ? 'Take the new one from here on' : 'Go on with the one it was planned with'}
    main={take}
    wide
    onPress={() =>
      saying(['standing', runId, standingId, take], (stamp) =>
        standingIsDecided({ runId, standingId, take }, stamp),
      )
    }
  />
);

export const RestButton = ({ runId, rest }: { runId: string; rest: boolean }) => (
  <PendingButton
    words={rest ? 'Pause the run' : 'Go on with the run'}
    main={!rest}
    onPress={() => saying(['rest', runId, rest], (stamp) => restOrGoOn({ runId, rest }, stamp))}
  />
);

export const TakeBackButton = ({ runId, checkId }: { runId: string; checkId: string }) => (
  <PendingButton
    words="Take back"
    onPress={() => saying(['take back', checkId], (stamp) => takeCheckBack({ runId, checkId }, stamp))}
  />
);

export const ReopenButton = ({ runId }: { runId: string }) => (
  <PendingButton
    words="Open it again"
    onPress={() => saying(['open again', runId], (stamp) => openTheRunAgain(runId, stamp))}
  />
);
