import type { ReactNode } from 'react';

import { preferences, requestDeps } from '@/server/base/context';
import { whyClosed } from '@/server/shop/closed';

import { dateText } from '@/clock/dates';
import { TopControls } from '@/ui/TopControls';

import { AskInitials } from './AskInitials';

/** The frame's right side: what is in use at the top, the work below. */
export async function Page({
  title,
  context,
  trueSize = '',
  children,
}: {
  /** What the browser’s tab says. */
  title: string;
  context: ReactNode;
  /** What is printed at its true size elsewhere, for whoever prints this page instead. */
  trueSize?: string;
  children: ReactNode;
}) {
  const [chosen, closed] = await Promise.all([preferences(), whyClosed(requestDeps())]);
  return (
    <>
      <title>{`${title} · Red Plumb`}</title>
      <header className="top">
        {context}
        <TopControls key={chosen.who} {...chosen} />
      </header>
      <main className="work" id="work" tabIndex={-1}>
        {closed && (
          <p className="notice notice-bad" role="status">
            Nothing can be saved just now: {closed}
          </p>
        )}
        {children}
        <p className="print-only printed-at">
          {title}. Printed {dateText(requestDeps().now(), 'd MMM yyyy HH:mm')}
          {chosen.who && `, ${chosen.who}`}. {trueSize}
        </p>
      </main>
      <AskInitials />
    </>
  );
}
