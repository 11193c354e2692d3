import Link from 'next/link';

import { Page } from '@/features/frame/Page';
import { preferences } from '@/server/base/context';

import { OutlineDesk } from './OutlineDesk';

/** A cut line from a picture. */
export async function OutlinePage() {
  const { unit } = await preferences();
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
      <OutlineDesk unit={unit} />
    </Page>
  );
}
