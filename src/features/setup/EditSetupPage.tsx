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

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What a setup is: medium, size, marks, recipe, roll. */
export async function EditSetupPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  const setup = id.success ? await getSetup(requestDeps(), id.data) : null;
  if (!setup) notFound();
  const { unit } = await preferences();
  const own = await equipmentOf(requestDeps(), (await getRig(requestDeps(), setup.rigId))!.cutterId);
  // What was taken out since is still named, until another one is chosen.
  const also = <T extends { readonly id: string }>(list: readonly T[], one: T | null): readonly T[] =>
    one === null || list.some((x) => x.id === one.id) ? list : [...list, one];
  const equipment = { tools: also<Named>(own.tools, setup.tool), mats: also<Named>(own.mats, setup.mat) };
  return (
    <Page
      title={`Edit ${setup.media} on ${setup.name}`}
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
        of={{ setupId: setup.id }}
        version={setup.version}
        initial={shopFieldsOf(setup, unit)}
        unit={unit}
        save={saveSetup}
        words="Save"
        equipment={equipment}
        back={{ href: `/setups/${setup.id}`, words: `Back to ${setup.media}` }}
      />
    </Page>
  );
}
