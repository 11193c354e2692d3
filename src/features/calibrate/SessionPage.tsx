import type { ReactNode } from 'react';

import { currentPass, isShort, sheetName, stateOf, type Session } from '@/server/sessions/session';
import { LiveRefresh } from '@/ui/LiveRefresh';
import { LeaveOut } from '@/ui/railSteps';

import { Page } from '../frame/Page';

import { ActButton } from '@/features/forms/acts/ActButton';
import { SessionContext } from './SessionContext';

const STEP_WORDS: Readonly<Record<Session['stage'], string>> = {
  print: 'Print',
  read: 'Read',
  correct: 'Correct by',
  prove: 'Prove by',
  closed: 'Closed:',
};

/** A step of a session: it follows what other tablets do, and a session that was started by mistake can be thrown away. */
export function SessionPage({
  session,
  ratio,
  words,
  children,
}: {
  session: Session;
  /** Predicted misregistration over tolerance, for the glyph; null while nothing is known. */
  ratio: number | null;
  words: string;
  children: ReactNode;
}) {
  return (
    <Page
      title={`${STEP_WORDS[session.stage]} ${sheetName(currentPass(session).sheet)}`}
      context={<SessionContext session={session} ratio={ratio} words={words} />}
      trueSize="This is the screen on paper: the sheet at its true size is behind “Print sheet”."
    >
      {/* A short one tells what to type while it is read; a quick check corrects nothing. */}
      {(session.kind === 'quick-check' || isShort(currentPass(session))) && <LeaveOut step="correct" />}
      <LiveRefresh address={`/api/sessions/${session.id}/stamp`} stamp={session.changes} />
      {children}
      <details className="working mistake">
        <summary>Started by mistake?</summary>
        <p className="small-print">
          Discarding closes this session without a verdict. Its sheet number and readings stay in the logbook,
          marked as discarded, and it can be opened again there.
        </p>
        <ActButton act="discard" session={stateOf(session)} words="Discard this session" />
      </details>
    </Page>
  );
}
