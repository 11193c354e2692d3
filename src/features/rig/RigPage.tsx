import { Plus } from 'lucide-react';
import Link from 'next/link';
import { notFound, redirect } from 'next/navigation';
import Table from 'react-bootstrap/Table';

import { frameWords } from '@/core/daily';
import { provedEffects } from '@/core/correction';
import { Page } from '@/features/frame/Page';
import { Fold } from '@/ui/Fold';
import { waiting } from '@/features/forms/acts/nextSteps';
import { DropTo } from '@/features/forms/drop/DropTo';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { equipmentOf } from '@/server/rigs/equipment';
import { getRig } from '@/server/rigs/repository';
import { twinsOf } from '@/server/rigs/sameMachines';
import { stepsAtHand } from '@/server/setups/stepsAtHand';
import { happenedTo } from '@/server/setups/happened';
import { settingHistory } from '@/server/setups/history';
import { getSetup, listArchived } from '@/server/setups/repository';
import type { Rig } from '@/server/setups/setup';
import { foundOf } from '@/server/watch/foundTerms';
import { newestStudy } from '@/server/sessions/readAgain';
import { setupRecord } from '@/server/setups/setupRecord';
import { dateText } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';
import { noFiguresWords } from '@/ui/words/settingWords';
import { Word } from '@/ui/words/Word';

import { Equipment } from './Equipment';
import { EventForm } from './EventForm';
import { Notes } from './Notes';
import { OffTheBench } from './OffTheBench';
import { rigView, type RigView } from './rig.view';
import { Readers } from './Readers';
import { SameMachines } from './SameMachines';
import { termBands } from './terms.view';
import { TermsChart } from './TermsChart';
import { Typed } from './Typed';
import { PolicyForm } from './PolicyForm';
import { WantsRow } from './WantsRow';
import { WatchPanel } from './WatchPanel';
import { SeenEffects } from './SeenEffects';

/** A rig’s home: what its machine shows, what each medium on it wants, and what happened to it. */
export async function RigPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const rig = await getRig(deps, id.data);
  // What is a setup now was a rig’s own address once.
  if (!rig && (await getSetup(deps, id.data))) redirect(`/setups/${id.data}`);
  if (!rig) notFound();
  const { unit } = await preferences();
  const first = rig.setups[0];
  const [atHand, history, equipment, twins, archived, terms, changes, readBy] = await Promise.all([
    stepsAtHand(deps, rig.id),
    settingHistory(deps, rig),
    equipmentOf(deps, rig.cutterId),
    twinsOf(deps, rig),
    listArchived(deps, rig.id),
    foundOf(deps, rig.id),
    first ? setupRecord(deps, first, deps.now()).then((r) => r.changes) : [],
    newestStudy(deps, rig.id, deps.now()),
  ]);
  const { setups } = atHand;
  const own = new Set(setups.map((b) => b.setup.id));
  const steps = waiting(setups, atHand.runs, deps.now(), unit, atHand.today).filter((t) =>
    own.has(t.setupId),
  );
  const view = rigView(rig, setups, unit, steps);
  // What stood before each calibration; the watch is of every load.
  const found = [...terms.values()].flat().filter((f) => f.position === 1);
  const asked = idSchema.safeParse((await searchParams).medium).data;
  const shownTerms =
    rig.setups.find((s) => s.id === asked) ?? rig.setups.find((s) => s.id === rig.onIt?.setupId) ?? first;
  const seen = first ? provedEffects(first.settings, changes) : [];
  return (
    <Page
      title={rig.name}
      context={
        <>
          <strong>{rig.name}</strong>
          <span className="soft">
            {rig.printer === rig.cutter ? rig.cutter : `${rig.printer}, ${rig.cutter}`}
          </span>
          <Link href={`/rigs/${rig.id}/edit`}>Edit</Link>
        </>
      }
    >
      <div className="answer-row">
        <h1 className="answer">{view.answer}</h1>
        <Link href={`/rigs/${rig.id}/new`} className="btn btn-plain flex-shrink-0">
          <Plus size={20} aria-hidden /> Another medium
        </Link>
      </div>
      <Wants rig={rig} view={view} />
      {twins.map((twin) => (
        <SameMachines key={twin.rigId} rigId={rig.id} rigName={rig.name} twin={twin} />
      ))}
      {first && (
        <div className="mt-3">
          <DropTo setupId={rig.onIt?.setupId ?? first.id}>
            Drop cut files here: they come back corrected.
          </DropTo>
        </div>
      )}
      <div className="mt-3">
        <Fold name="rig-terms" words="All terms" usual={`${found.length} loads on record`}>
          <div className="stack">
            {shownTerms && (
              <TermsChart
                bands={termBands(found, shownTerms.id, unit)}
                media={rig.setups
                  .filter((s) => found.some((f) => f.setupId === s.id))
                  .map((s) => ({ id: s.id, words: s.label ? `${s.media}, ${s.label}` : s.media }))}
                chosen={shownTerms.id}
                events={(setups.find((s) => s.setup.id === shownTerms.id)?.events ?? []).map((e) => ({
                  at: e.at,
                  words: EVENT_WORDS[e.kind] ?? e.kind,
                }))}
                toleranceMm={shownTerms.toleranceMm}
                unit={unit}
                href={(setupId) => `/rigs/${rig.id}?medium=${setupId}`}
                charts={`/rigs/${rig.id}/charts?medium=${shownTerms.id}`}
              />
            )}
            {shownTerms && (
              <WatchPanel
                media={shownTerms.media}
                axes={setups.find((s) => s.setup.id === shownTerms.id)?.watch ?? []}
                unit={unit}
              />
            )}
            <Typed history={history} />
          </div>
        </Fold>
        <Fold
          name="rig-set-up"
          words="Set up"
          usual={setUpWords(equipment.tools.length, equipment.mats.length, rig)}
        >
          <div className="set-up">
            <section className="panel">
              <h2>Its cut files</h2>
              <p>
                {rig.fileFrame
                  ? `In a cut file ${frameWords(rig.fileFrame, unit)}.`
                  : 'How its cut files lie on the sheet is not told yet; without it none is corrected.'}{' '}
                <Link href={`/rigs/${rig.id}/edit#files`}>{rig.fileFrame ? 'Change' : 'Tell it'}</Link>
              </p>
            </section>
            <Equipment
              rigId={rig.id}
              cutter={rig.cutter}
              equipment={equipment}
              fitted={Object.fromEntries(
                equipment.tools.map((t) => [t.id, dateText(t.fittedAt, 'd MMM yyyy')]),
              )}
              unit={unit}
            />
            {first && <SeenEffects settings={first.settings} seen={seen} />}
            {readBy && <Readers record={readBy} unit={unit} />}
            {first && (
              <EventForm
                asksAfter={rig.checkAfter.events}
                setups={rig.setups.map(({ id: setupId, media }) => ({ id: setupId, media }))}
              />
            )}
            <PolicyForm rigId={rig.id} version={rig.version} policy={rig.checkAfter} />
            <Notes list={await happenedTo(deps, rig.id)} />
            <OffTheBench setups={archived.map(({ id: setupId, media }) => ({ id: setupId, media }))} />
          </div>
        </Fold>
      </div>
    </Page>
  );
}

/** “2 tools, 1 mat; asks after 20 loads”. */
function setUpWords(tools: number, mats: number, { fileFrame, checkAfter }: Rig): string {
  const count = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
  const asks = checkAfter.idleDays ? `; asks after ${checkAfter.idleDays} days` : '';
  return `${count(tools, 'tool')}, ${count(mats, 'mat')}${fileFrame ? '' : ', cut files not told'}${asks}`;
}

/** What the machine shows, and below it what each setup wants: an arrow where it has to be typed first. */
function Wants({ rig, view }: { rig: Rig; view: RigView }) {
  const same = view.rows.every((r) => r.wants.every((w) => w.deed !== 'type'));
  return (
    <section className="panel">
      <div
        className="overflow-auto position-relative"
        role="group"
        aria-label="What its media want"
        tabIndex={0}
      >
        <Table borderless className="wants mb-0">
          <thead>
            <tr>
              <th scope="col" colSpan={2}>
                {view.settings.length > 0 && (
                  <>
                    The machine shows now
                    <br />
                    <span className="small-print">
                      {rig.onIt
                        ? `changed over by ${rig.onIt.by}, ${dateText(rig.onIt.at, 'd MMM HH:mm')}`
                        : 'as it was typed last'}
                    </span>
                  </>
                )}
              </th>
              <th scope="col" className="num">
                <Word of="95 of 100" />
              </th>
              {view.settings.map((s) => (
                <th scope="col" key={s.id} className="num">
                  {s.name}, {s.unit}
                  <br />
                  <span className="shows mono" data-testid={`shows-${s.name}`}>
                    {s.shows ?? <span className="small-print">one per medium</span>}
                  </span>
                </th>
              ))}
              <th scope="col">
                <span className="visually-hidden">next</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {view.rows.map((r) => (
              <WantsRow key={r.id} row={r} />
            ))}
          </tbody>
        </Table>
      </div>
      {view.settings.length > 0 && view.rows.length > 0 && (
        <p className="small-print mb-0 mt-2">
          {same
            ? 'Every setup wants what the machine shows.'
            : 'An arrow: type this before that medium runs. Without one, the machine shows it already.'}
        </p>
      )}
      {view.settings.length === 0 && (
        <p className="small-print mb-0 mt-2">{noFiguresWords(rig.changeable)}</p>
      )}
    </section>
  );
}
