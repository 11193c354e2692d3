import Link from 'next/link';
import { z } from 'zod';

import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { lastUsedSetups } from '@/server/files/listFiles';
import { setupCheck } from '@/server/setups/checkContext';
import { listSetups } from '@/server/setups/repository';

import { CheckDesk } from './CheckDesk';

const asked = z.object({ setup: z.uuid().nullable().catch(null) });

/** A print and its cut file, looked at before anything is printed. */
export async function CheckPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { setup: named } = asked.parse(await searchParams);
  const { unit } = await preferences();
  const deps = requestDeps();
  const [all, used] = await Promise.all([listSetups(deps), lastUsedSetups(deps)]);
  const place = (id: string): number => (used.includes(id) ? used.indexOf(id) : used.length);
  const setups = all.toSorted((a, b) => place(a.id) - place(b.id)).map(setupCheck);
  return (
    <Page
      title="Check a pair"
      context={
        <>
          <Link href="/jobs">
            <strong>Jobs</strong>
          </Link>
          <span className="soft">check print and cut before printing</span>
        </>
      }
    >
      {setups.length === 0 ? (
        <h1 className="answer">Add a rig first: then its pages, marks and areas are known.</h1>
      ) : (
        <CheckDesk setups={setups} first={named} unit={unit} />
      )}
    </Page>
  );
}
