import Link from 'next/link';
import { notFound } from 'next/navigation';

import type { RepeatStudy } from '@/core/readings/repeat';
import type { LengthUnit } from '@/core/units';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getSession } from '@/server/sessions/loadSession';
import {
  combsAgain,
  looksAgain,
  MOST_ROUNDS,
  nextAgain,
  studyOfPass,
  type AgainLook,
  type CombAgain,
} from '@/server/sessions/readAgain';
import type { Pass, Session } from '@/server/sessions/session';
import { simulatedAgain } from '@/server/sessions/simulatedCombs';
import { Rows } from '@/ui/tables/Rows';

import { Page } from '../../frame/Page';
import { AgainDesk } from './AgainDesk';
import { adviceWords, studyAnswer, studyRows, usedWords } from './again.view';

/** How well is this rig read? Some combs of a read sheet are read again, by whoever reads here. */
export async function AgainPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const session = await getSession(deps, id.data);
  if (!session || session.discarded) notFound();
  const { unit, who } = await preferences();
  const pass = session.passes.findLast((p) => combsAgain(p).length > 1) ?? null;
  const combs = pass ? combsAgain(pass) : [];
  const looks = pass ? await looksAgain(deps, pass.id) : [];
  const study = pass ? await studyOfPass(deps, pass.id) : null;
  return (
    <Page
      title={pass ? `Read sheet ${pass.sheet.label} again` : 'Read a sheet again'}
      context={
        <>
          <strong>{session.setup.name}</strong>
          <span className="soft">
            {session.setup.media}
            {pass && `, sheet ${pass.sheet.label}, set ${pass.set === 1 ? 'A' : 'B'}`}
            {session.setup.simulated && ', simulated rig'}
          </span>
          <Link href={session.stage === 'closed' ? `/logbook/${session.id}` : `/calibrate/${session.id}`}>
            Back to the session
          </Link>
        </>
      }
    >
      {pass ? (
        <Again {...{ session, pass, combs, looks, study, who, unit }} />
      ) : (
        <h1 className="answer">
          Nothing can be read again yet: read both combs of at least one station of this session’s sheet
          first.
        </h1>
      )}
    </Page>
  );
}

function Again({
  session,
  pass,
  combs,
  looks,
  study,
  who,
  unit,
}: {
  session: Session;
  pass: Pass;
  combs: readonly CombAgain[];
  looks: readonly AgainLook[];
  study: RepeatStudy | null;
  who: string;
  unit: LengthUnit;
}) {
  const next = nextAgain(combs, looks, pass.sheet.number, who);
  const own = looks.filter((l) => l.person === who).length;
  return (
    <div className="read">
      {next ? (
        <AgainDesk
          key={`${who} ${own}`}
          passId={pass.id}
          sheet={pass.sheet.geometry}
          set={pass.set}
          next={{ ...next.comb, round: next.round, done: next.done, of: combs.length }}
          mayTakeBack={own > 0}
          simulated={session.setup.simulated ? simulatedAgain(pass, next.comb, looks.length) : null}
          unit={unit}
        />
      ) : (
        <h1 className="answer">
          {who} has read these combs {MOST_ROUNDS} times again: that is enough. Let somebody else read them.
        </h1>
      )}
      <aside className="panel side">
        <StudyPanel study={study} looks={looks} unit={unit} />
      </aside>
    </div>
  );
}

const TIMES: Readonly<Record<number, string>> = { 1: 'once', 2: 'twice' };

/** What the looks say so far. */
function StudyPanel({
  study,
  looks,
  unit,
}: {
  study: RepeatStudy | null;
  looks: readonly AgainLook[];
  unit: LengthUnit;
}) {
  const persons = [...new Set(looks.map((l) => l.person))];
  return (
    <>
      <h2>How well it is read</h2>
      {study ? (
        <>
          <p>{studyAnswer(study, unit)}</p>
          <Rows label="What looks differ by">
            <thead>
              <tr>
                <th scope="col">one look and the next</th>
                <th scope="col" className="num">
                  standard deviation
                </th>
              </tr>
            </thead>
            <tbody>
              {studyRows(study, unit).map((row) => (
                <tr key={row.name}>
                  <th scope="row">{row.name}</th>
                  <td className="text-end">
                    <span className="mono">{row.sd}</span>
                    <br />
                    <span className="small-print">
                      {row.from} to {row.to}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </Rows>
          {adviceWords(study).map((words) => (
            <p key={words} className="notice mb-2">
              {words}
            </p>
          ))}
          <p className="small-print">
            {usedWords(study, unit)} From {study.used} of {study.of} looks: {study.combs} combs,{' '}
            {study.who.join(', ')}, {TIMES[study.repeats] ?? `${study.repeats} times`} each.
          </p>
        </>
      ) : (
        <p>
          Read one round: each comb once more. The readings of the session are the first look at each. Two
          persons tell what persons differ by.
        </p>
      )}
      {persons.length > 0 && (
        <p className="small-print mb-0">
          Read again so far:{' '}
          {persons.map((p) => `${p} ${looks.filter((l) => l.person === p).length}`).join(', ')}.
        </p>
      )}
    </>
  );
}
