import { emptyShop } from '@/features/forms/shop/shopFields';
import { ShopForm } from '@/features/forms/shop/ShopForm';
import { Page } from '@/features/frame/Page';
import { preferences } from '@/server/base/context';

import { saveNewRig } from './actions';

export async function NewRigPage() {
  const { unit } = await preferences();
  return (
    <Page title="New rig" context={<strong>New rig</strong>}>
      <h1 className="answer">
        One printer, one cutter, and the first medium on them: tell what they are and what the machine’s
        offsets say now.
      </h1>
      <ShopForm
        part="new-rig"
        of={{}}
        version={0}
        initial={emptyShop(unit)}
        unit={unit}
        save={saveNewRig}
        words="Add this rig"
        back={{ href: '/', words: 'Back to the bench' }}
      />
    </Page>
  );
}
