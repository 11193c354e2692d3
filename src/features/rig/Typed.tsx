import { fixed, placesOfStep } from '@/core/units';
import type { SettingChangeEntry } from '@/server/setups/history';
import { dateText } from '@/clock/dates';
import { unitWords } from '@/ui/settingWords';
import { Rows } from '@/ui/Rows';

/** So many are read at a glance. */
const AT_A_GLANCE = 6;

/** Every value that was typed into a rig’s machines: who, when, why; the newest at a glance. */
export function Typed({ history }: { history: readonly SettingChangeEntry[] }) {
  const more = history.slice(AT_A_GLANCE);
  return (
    <section className="panel">
      <h2>Typed into its machines</h2>
      {history.length === 0 ? (
        <p className="soft mb-0">No setting has been recorded yet.</p>
      ) : (
        <Changes list={history.slice(0, AT_A_GLANCE)} label="Typed into its machines" />
      )}
      {more.length > 0 && (
        <details className="working">
          <summary>{more.length === 1 ? 'One more before' : `${more.length} more before`}</summary>
          <Changes list={more} label="Typed before" />
        </details>
      )}
    </section>
  );
}

function Changes({ list, label }: { list: readonly SettingChangeEntry[]; label: string }) {
  return (
    <Rows label={label}>
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
        </tr>
      </thead>
      <tbody>
        {list.map((h, i) => (
          <tr key={i}>
            <td>
              <span className="text-nowrap">{dateText(h.at, 'd MMM yyyy')}</span>
              <br />
              <span className="small-print">
                {dateText(h.at, 'HH:mm')}, {h.by}
              </span>
            </td>
            <td>{h.setting}</td>
            <td className="num">{h.from === null ? '' : fixed(h.from, placesOfStep(h.step))}</td>
            <td className="num text-nowrap">
              {fixed(h.to, placesOfStep(h.step))} {unitWords(h.unit)}
            </td>
            <td className="why">
              {h.reason}
              {h.media !== null && !h.reason.includes(h.media) && `, ${h.media}`}
            </td>
          </tr>
        ))}
      </tbody>
    </Rows>
  );
}
