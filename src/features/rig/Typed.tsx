import { fixed, placesOfStep } from '@/core/units';
import type { SettingChangeEntry } from '@/server/setups/history';
import { dateText } from '@/clock/dates';
import { unitWords } from '@/ui/words/settingWords';
import { DataTable } from '@/ui/tables/DataTable';

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
    <DataTable
      label={label}
      rows={list}
      columns={[
        [
          'when',
          (h) => (
            <>
              <span className="text-nowrap">{dateText(h.at, 'd MMM yyyy')}</span>
              <br />
              <span className="small-print">
                {dateText(h.at, 'HH:mm')}, {h.by}
              </span>
            </>
          ),
        ],
        ['setting', (h) => h.setting],
        ['from', (h) => (h.from === null ? '' : fixed(h.from, placesOfStep(h.step))), 'num'],
        ['to', (h) => `${fixed(h.to, placesOfStep(h.step))} ${unitWords(h.unit)}`, 'num text-nowrap'],
        [
          'why',
          (h) => (
            <>
              {h.reason}
              {h.media !== null && !h.reason.includes(h.media) && `, ${h.media}`}
            </>
          ),
          'why',
        ],
      ]}
    />
  );
}
