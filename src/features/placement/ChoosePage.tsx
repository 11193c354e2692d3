import { setupsByRig, setupWords } from '@/core/setup/inLists';
import Link from 'next/link';

import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { listSetups } from '@/server/setups/repository';
import { sizeWords } from '@/ui/words/sizeWords';

/** Which setup lies on the machine whose marks are driven to by hand. */
export async function ChoosePage() {
  const { unit } = await preferences();
  const setups = await listSetups(requestDeps());
  return (
    <Page title="Find the print by hand" context={<strong>Find the print by hand</strong>}>
      <h1 className="answer">
        {setups.length === 0 ? 'Add a rig first: then its marks are known.' : 'What lies on the machine?'}
      </h1>
      <ul className="list-unstyled panel">
        {setupsByRig(setups).map((s) => (
          <li key={s.id}>
            <Link className="d-inline-block py-2" href={`/setups/${s.id}/by-hand`}>
              {setupWords(s)}
            </Link>{' '}
            <span className="soft">{sizeWords(s, unit)}</span>
          </li>
        ))}
      </ul>
    </Page>
  );
}
