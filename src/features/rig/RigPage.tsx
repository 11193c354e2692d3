import { format } from 'date-fns';
import { notFound } from 'next/navigation';

import { provedEffects } from '@/core/correction';
import { fixed, placesOfStep } from '@/core/units';
import { UNIT_WORDS, unitWords } from '@/ui/settingWords';
import { preferences, requestDeps } from '@/server/base/context';
import { rigRecord } from '@/server/rigs/rigRecord';
import { settingHistory } from '@/server/rigs/history';
import { getRig } from '@/server/rigs/repository';
import { idSchema } from '@/server/base/shapes';

import { Page } from '@/features/frame/Page';

import { EventForm } from './EventForm';
import { FirstEdge } from '@/features/pieces/FirstEdge';
import { RemoveRig } from './RemoveRig';
import { rigFields } from './rigForm';
import { RigForm } from './RigForm';
import { SeenEffects } from './SeenEffects';

/** One rig: what it is, what its settings were, and what happened to it. */
export async function RigPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const rig = await getRig(deps, id.data);
  if (!rig) notFound();
  const { unit } = await preferences();
  const history = await settingHistory(deps, rig.id);
  const { changes } = await rigRecord(deps, rig, deps.now());
  const seen = provedEffects(rig.settings, changes);
  return (
    <Page
      context={
        <>
          <strong>{rig.name}</strong>
          <span className="soft">{rig.media}</span>
        </>
      }
    >
      <h1 className="answer">
        {rig.settings.length === 0
          ? 'This rig takes no figures: its cut files carry the correction.'
          : `The machine should show ${rig.settings.map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))} ${UNIT_WORDS[s.unit]}`).join(' and ')} now.`}
      </h1>
      <RigForm rigId={rig.id} version={rig.version} initial={rigFields(rig, unit)} unit={unit} />
      <section className="panel mt-3">
        <h2>How its sheets leave the printer</h2>
        <FirstEdge rigId={rig.id} bobFirst={rig.bobFirst} />
      </section>
      <div className="bench-below">
        <section className="panel">
          <h2>What its settings were</h2>
          <div className="overflow-auto">
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">when</th>
                  <th scope="col">setting</th>
                  <th scope="col" className="num">
                    from
                  </th>
                  <th scope="col" className="num">
                    to
                  </th>
                  <th scope="col">why</th>
                  <th scope="col">who</th>
                </tr>
              </thead>
              <tbody>
                {history.map((h, i) => (
                  <tr key={i}>
                    <td>{format(h.at, 'd MMM yyyy')}</td>
                    <td>{h.setting}</td>
                    <td className="num">{h.from === null ? '' : fixed(h.from, placesOfStep(h.step))}</td>
                    <td className="num">
                      {fixed(h.to, placesOfStep(h.step))} {unitWords(h.unit)}
                    </td>
                    <td>{h.reason}</td>
                    <td>{h.by}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {history.length === 0 && <p className="soft mb-0">No setting has been recorded yet.</p>}
        </section>
        <div className="stack">
          <SeenEffects settings={rig.settings} seen={seen} />
          <EventForm rigId={rig.id} />
          <RemoveRig rigId={rig.id} name={rig.name} archived={rig.archived} />
        </div>
      </div>
    </Page>
  );
}
