import Link from 'next/link';

import { ActButton } from '@/features/forms/acts/ActButton';
import type { FoundOut } from '@/server/sessions/signs';
import type { SessionState } from '@/server/sessions/session';

import { declareWords, foundOutWords } from './signs.view';

/** Settings that the proof found out: what they did instead, and one tap that declares it so. */
export function SignsNotice({
  found,
  session,
  rigId,
}: {
  found: readonly FoundOut[];
  session: SessionState;
  rigId: string;
}) {
  if (found.length === 0) return null;
  const told = found.filter((f) => f.direction !== null);
  return (
    <section className="panel stack" aria-labelledby="signs">
      <h2 id="signs">
        {found.every((f) => f.did === 'told') ? 'Now it is known' : 'Another pass would not mend this'}
      </h2>
      {found.map((f) => (
        <p key={f.settingId} className={f.did === 'told' ? 'mb-0' : 'notice mb-0'}>
          {foundOutWords(f)}
        </p>
      ))}
      {told.length > 0 && <ActButton act="directions" session={session} words={declareWords(told)} main />}
      <p className="small-print mb-0">
        {told.length > 0
          ? 'What to type is then worked out from these same readings. '
          : 'Mend it there, then go round again. '}
        Nothing is typed by itself. <Link href={`/rigs/${rigId}/edit`}>The rig’s settings</Link>
      </p>
    </section>
  );
}
