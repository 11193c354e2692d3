import Link from 'next/link';

import { loadBench } from '@/server/setups/bench';
import { preferences, requestDeps } from '@/server/base/context';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';
import { lengthText } from '@/core/units';
import { setupState } from '@/core/verdict';

import { StartButton } from '@/features/forms/acts/StartButton';
import { Page } from '../frame/Page';
import { Rows } from '@/ui/tables/Rows';

/** Which rig? Or go on with what is open. */
export async function CalibratePage() {
  const setups = await loadBench(requestDeps());
  const { unit } = await preferences();
  const open = setups.flatMap((r) => r.open);
  return (
    <Page title="Calibrate" context={<strong>Calibrate</strong>}>
      <h1 className="answer">
        {setups.length === 0
          ? 'There is no rig yet: add one on the bench first.'
          : open.length > 0
            ? 'Go on with what is open, or choose a rig.'
            : 'Choose the rig: a full calibration takes one sheet, a quick check one station.'}
      </h1>
      {setups.length === 0 ? (
        <Link className="btn btn-main" href="/rigs/new">
          Add a rig
        </Link>
      ) : (
        <section className="panel">
          <Rows label="Setups">
            <tbody>
              {setups.map((r) => {
                const stands = setupState(r);
                const goOn = r.open.find((s) => s.kind === 'calibration');
                return (
                  <tr key={r.setup.id}>
                    <td style={{ width: 44 }}>
                      <PlumbGlyph
                        ratio={stands.ratio}
                        size={44}
                        label={stands.unknown ?? lengthText(stands.r95Mm, unit)}
                      />
                    </td>
                    <th scope="row">
                      <strong>{r.setup.name}</strong>
                      <br />
                      <span className="small-print">{r.setup.media}</span>
                    </th>
                    <td>
                      <StateTag {...stands} />
                    </td>
                    <td className="text-end">
                      <StartButton setupId={r.setup.id} kind="quick-check" words="Quick check" />{' '}
                      <StartButton
                        setupId={r.setup.id}
                        kind="calibration"
                        words={goOn ? 'Go on' : 'Calibrate'}
                        main={goOn !== undefined}
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </Rows>
        </section>
      )}
    </Page>
  );
}
