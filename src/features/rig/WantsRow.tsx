import Link from 'next/link';

import { SetupAct } from '@/features/forms/acts/SetupAct';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';

import type { SetupRowView } from './rig.view';

/** A setup in the table of its rig: how it stands, what it wants, and what is done with it next. */
export function WantsRow({ row }: { row: SetupRowView }) {
  return (
    <tr>
      <td style={{ width: 52 }}>
        <PlumbGlyph
          ratio={row.stands.ratio}
          size={44}
          label={row.r95 ? `${row.r95} of ${row.allowed}` : 'not measured'}
        />
      </td>
      <th scope="row">
        <Link href={`/setups/${row.id}`}>{row.media}</Link> <StateTag {...row.stands} />
        <br />
        <span className="small-print">{row.about}</span>
      </th>
      <td className="num">
        {row.r95 ? (
          <>
            <strong className="mono">{row.r95}</strong> <span className="small-print">of {row.allowed}</span>
          </>
        ) : (
          <span className="small-print">{row.allowed} allowed</span>
        )}
      </td>
      {row.wants.map((w) => (
        <td key={w.settingId} className={`num mono want want-${w.deed}`} data-name={w.name}>
          {w.deed === 'type' ? (
            <strong>
              <span aria-hidden>→ </span>
              <span className="visually-hidden">type </span>
              {w.figure}
            </strong>
          ) : (
            <span className="soft">{w.figure}</span>
          )}
        </td>
      ))}
      <td className="wants-act">
        <SetupAct act={row.act} setupId={row.id} main={row.next} />
      </td>
    </tr>
  );
}
