import { notFound } from 'next/navigation';

import { shopFieldsOf } from '@/features/forms/shop/shopFields';
import { ShopForm } from '@/features/forms/shop/ShopForm';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { equipmentOf } from '@/server/rigs/equipment';
import { getRig } from '@/server/rigs/repository';
import { getSetup } from '@/server/setups/repository';

import { saveSetup } from './actions';

/** What a setup is: medium, size, marks, recipe, roll. */
export async function EditSetupPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  const setup = id.success ? await getSetup(requestDeps(), id.data) : null;
  if (!setup) notFound();
  const { unit } = await preferences();
  return (
    <Page
      context={
        <>
          <strong>{setup.name}</strong>
          <span className="soft">{setup.media}</span>
        </>
      }
    >
      <h1 className="answer">
        {setup.media} on {setup.name}: what it is, and how it is printed and loaded.
      </h1>
      <ShopForm
        part="setup"
        id={setup.id}
        version={setup.version}
        initial={shopFieldsOf(setup, unit)}
        unit={unit}
        save={saveSetup.bind(null, setup.id)}
        words="Save"
        equipment={await equipmentOf(requestDeps(), (await getRig(requestDeps(), setup.rigId))!.cutterId)}
        back={{ href: `/setups/${setup.id}`, words: `Back to ${setup.media}` }}
      />
    </Page>
  );
}
