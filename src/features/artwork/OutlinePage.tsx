import { setupsByRig, setupWords } from '@/core/setup/inLists';
import Link from 'next/link';

import { freeRooms } from '@/core/sheetJob';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { sheetOf } from '@/server/sheetJobs/createJob';
import { listSetups } from '@/server/setups/repository';

import { OutlineDesk } from './OutlineDesk';

/** A cut line from a picture, and the job that is made of it. */
export async function OutlinePage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { unit } = await preferences();
  const setups = await listSetups(requestDeps());
  const chosen = idSchema.safeParse((await searchParams).setup).data ?? null;
  return (
    <Page
      title="Cut line from a picture"
      context={
        <>
          <Link href="/jobs">
            <strong>Jobs</strong>
          </Link>
          <span className="soft">cut line from a picture</span>
        </>
      }
    >
      <OutlineDesk
        purpose={{
          kind: 'job',
          setups: setupsByRig(setups).map((s) => ({
            id: s.id,
            words: setupWords(s),
            rooms: freeRooms(sheetOf(s)),
          })),
          chosen: setups.some((s) => s.id === chosen) ? chosen : null,
        }}
        unit={unit}
      />
    </Page>
  );
}
