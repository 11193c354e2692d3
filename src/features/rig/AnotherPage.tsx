import { notFound } from 'next/navigation';
import { z } from 'zod';

import { anotherFieldsOf } from '@/features/forms/shop/shopFields';
import { ShopForm } from '@/features/forms/shop/ShopForm';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { equipmentOf } from '@/server/rigs/equipment';
import { getRig } from '@/server/rigs/repository';

import { saveAnother } from './actions';

const like = z.object({ like: idSchema.optional().catch(undefined) });

/** Another medium or size on a rig: it starts from one that is on it, so that nothing is typed twice. */
export async function AnotherPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const id = idSchema.safeParse((await params).id);
  const rig = id.success ? await getRig(requestDeps(), id.data) : null;
  const wanted = like.parse(await searchParams).like;
  const from = rig?.setups.find((s) => s.id === wanted) ?? rig?.setups[0];
  if (!rig || !from) notFound();
  const { unit } = await preferences();
  return (
    <Page
      title={`Another medium on ${rig.name}`}
      context={
        <>
          <strong>{rig.name}</strong>
          <span className="soft">another medium or size</span>
        </>
      }
    >
      <h1 className="answer">Name the new medium; everything else is as for {from.media}.</h1>
      <ShopForm
        part="setup"
        of={{ rigId: rig.id }}
        version={0}
        initial={anotherFieldsOf(from, unit)}
        unit={unit}
        save={saveAnother}
        words={`Put it on ${rig.name}`}
        equipment={await equipmentOf(requestDeps(), rig.cutterId)}
        back={{ href: `/rigs/${rig.id}`, words: `Back to ${rig.name}` }}
      />
    </Page>
  );
}
