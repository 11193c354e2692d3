import { notFound, redirect } from 'next/navigation';

import { rigFieldsOf } from '@/features/forms/shop/shopFields';
import { ShopForm } from '@/features/forms/shop/ShopForm';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getRig } from '@/server/rigs/repository';

import { saveRig } from './actions';

/** What a rig is: its machines, what can be changed, and the figures they take. */
export async function EditRigPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  const rig = id.success ? await getRig(requestDeps(), id.data) : null;
  if (!rig) notFound();
  // Its settings are known by what is on it: put something back first.
  if (rig.setups.length === 0) redirect(`/rigs/${rig.id}`);
  const { unit } = await preferences();
  const media = rig.setups.map((s) => s.media).join(', ');
  return (
    <Page
      title={`Edit ${rig.name}`}
      context={
        <>
          <strong>{rig.name}</strong>
          <span className="soft">its machines and settings</span>
        </>
      }
    >
      <h1 className="answer">
        {rig.setups.length > 1
          ? `What is changed here holds for all that is on it: ${media}.`
          : 'Its printer, its cutter, and the figures they take.'}
      </h1>
      <ShopForm
        part="rig"
        of={{ rigId: rig.id }}
        version={rig.version}
        initial={rigFieldsOf(rig, unit)}
        unit={unit}
        save={saveRig}
        words="Save"
        back={{ href: `/rigs/${rig.id}`, words: `Back to ${rig.name}` }}
      />
    </Page>
  );
}
