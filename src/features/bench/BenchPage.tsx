import { Plus } from 'lucide-react';
import Link from 'next/link';

import { lengthText } from '@/core/units';
import { loadBench, type BenchSetup } from '@/server/setups/bench';
import { preferences, requestDeps } from '@/server/base/context';
import { listRuns } from '@/server/runs/listRuns';
import { PlumbGlyph } from '@/ui/PlumbGlyph';
import { RecordChart } from '@/ui/RecordChart';
import { StateTag } from '@/ui/StateTag';

import { Page } from '../frame/Page';

import { benchView, type BenchView, type SetupCardView } from './bench.view';
import { EVENT_WORDS } from '@/ui/eventWords';
import { StartButton } from '@/features/pieces/StartButton';

/** Rigs and what needs doing now. */
export async function BenchPage() {
  const { unit } = await preferences();
  const deps = requestDeps();
  const setups = await loadBench(deps);
  const view = benchView(
    setups,
    unit,
    new Date(),
    (await listRuns(deps, { show: 'open', sort: 'newest', page: 1 })).rows,
  );
  const charted = setups.find((r) => r.setup.id === view.chartSetupId);
  return (
    <Page context={<strong>{setups.length === 1 ? '1 rig' : `${setups.length} rigs`} on the bench</strong>}>
      <div className="answer-row">
        <h1 className="answer">{view.answer}</h1>
        <Link href="/rigs/new" className="btn btn-plain flex-shrink-0">
          <Plus size={20} aria-hidden /> Add a rig
        </Link>
      </div>
      {view.groups.map((group) => (
        <section key={group.id} className="rig-group" aria-label={`On the rig ${group.name}`}>
          <header>
            <h2>
              <Link href={`/rigs/${group.id}`}>{group.name}</Link>
            </h2>
            <span className="end">
              {group.shows && (
                <span className="small-print">
                  shows <span className="mono">{group.shows}</span>
                </span>
              )}
              <Link href={`/rigs/${group.id}/new`} aria-label={`Another medium on ${group.name}`}>
                Another medium
              </Link>
            </span>
          </header>
          <div className="rig-cards">
            {group.cards.map((card) => (
              <SetupCard
                key={card.id}
                card={card}
                unit={unit}
                setup={setups.find((r) => r.setup.id === card.id)!}
              />
            ))}
          </div>
        </section>
      ))}
      {setups.length > 0 && (
        <div className="bench-below">
          <Tasks tasks={view.tasks} />
          {charted && (
            <section className="panel">
              <RecordChart
                title={`${charted.setup.name}: what 95 of 100 cuts stayed within, ${unit}`}
                points={charted.history.map((h) => ({
                  at: h.at,
                  r95Mm: h.r95Mm,
                  words:
                    h.kind === 'quick-check'
                      ? 'quick check'
                      : h.proved
                        ? 'calibrated and proved'
                        : 'measured, left as it is',
                }))}
                events={charted.events.map((e) => ({ at: e.at, words: EVENT_WORDS[e.kind] ?? e.kind }))}
                toleranceMm={charted.setup.toleranceMm}
                unit={unit}
              />
            </section>
          )}
        </div>
      )}
    </Page>
  );
}

function SetupCard({ card, unit, setup }: { card: SetupCardView; unit: 'mm' | 'in'; setup: BenchSetup }) {
  return (
    <section className="panel rig-card" aria-label={`${card.name}, ${card.media}`}>
      <PlumbGlyph ratio={card.ratio} size={150} label={card.glyphLabel} />
      <div>
        <h3>
          <Link href={`/setups/${card.id}`}>{card.media}</Link>
        </h3>
        <p className="soft mb-2">{card.size}</p>
        <StateTag state={card.state} />
        {card.r95 !== null && (
          <p className="mb-1 mt-1">
            <span className="mono big">{card.r95}</span> <span className="mono">{unit}</span>
            <br />
            <span className="small-print">
              95 of 100 cuts stay within this; allowed <span className="mono">{card.allowed}</span>
            </span>
          </p>
        )}
        {card.r95 === null && (
          <p className="small-print my-2">allowed {lengthText(setup.setup.toleranceMm, unit)}</p>
        )}
        {card.lines.map((line) => (
          <p key={line} className="mb-0" style={{ fontSize: '0.9375rem' }}>
            {line}
          </p>
        ))}
      </div>
      <div className="acts">
        {card.changeOver && (
          <Link href={`/setups/${card.id}/change-over`} className="btn btn-plain">
            Change over
          </Link>
        )}
        <StartButton
          setupId={card.id}
          kind="calibration"
          words={setup.open.some((s) => s.kind === 'calibration') ? 'Go on calibrating' : 'Calibrate'}
        />
        {(card.state !== null || setup.unproved !== null) && (
          <StartButton setupId={card.id} kind="quick-check" words="Quick check" />
        )}
        <Link href={`/setups/${card.id}/roll`} className="btn btn-plain">
          Drift
        </Link>
      </div>
    </section>
  );
}

function Tasks({ tasks }: { tasks: BenchView['tasks'] }) {
  return (
    <section className="panel">
      <h2>Do next</h2>
      {tasks.length === 0 && (
        <p className="mb-0">Nothing is waiting. Check a rig quickly before a tight job.</p>
      )}
      <table className="rows">
        <tbody>
          {tasks.map((task, i) => (
            <tr key={task.key}>
              <th scope="row">
                {task.words}
                <br />
                <span className="small-print">{task.rigName}</span>
              </th>
              <td className="text-end">
                {task.href ? (
                  <Link className={`btn ${i === 0 ? 'btn-main' : 'btn-plain'}`} href={task.href}>
                    Go on
                  </Link>
                ) : (
                  <StartButton setupId={task.setupId} kind={task.start!} words="Start" main={i === 0} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
