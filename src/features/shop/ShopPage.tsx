import Link from 'next/link';

import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { shopZone, zonesKnown } from '@/server/shop/zone';
import { dateText, serverZone } from '@/clock/dates';

import { ZoneForm } from './ZoneForm';

/** What is so of the whole shop: its clock, and its records as one file. */
export async function ShopPage() {
  const deps = requestDeps();
  await preferences();
  const { zone, said } = await shopZone(deps);
  return (
    <Page
      title="Shop settings"
      context={
        <>
          <Link href="/logbook">Logbook</Link>
          <strong>Shop settings</strong>
        </>
      }
    >
      <h1 className="answer">
        It is {dateText(deps.now(), 'HH:mm')} in this shop, {dateText(deps.now(), 'EEEE d MMMM yyyy')}.
      </h1>
      <div className="two mt-3">
        <section className="panel">
          <h2>Its clock</h2>
          <p>
            Days and hours on screen and on printed sheets are written in this zone. Exports for other
            programs stay in universal time. A sheet that is printed keeps the date that stands on it.
          </p>
          <ZoneForm zone={said ? zone : null} ofServer={serverZone()} zones={zonesKnown()} />
        </section>
        <section className="panel side">
          <h2>Its records</h2>
          <p>
            Everything that is on record, files that were made included, as one archive. Keep one somewhere
            else; <span className="mono">npm run restore</span> takes it.
          </p>
          <a className="btn btn-plain" href="/api/shop">
            Whole shop
          </a>
        </section>
      </div>
    </Page>
  );
}
