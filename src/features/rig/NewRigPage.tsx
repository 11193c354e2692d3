import { emptyShop } from '@/features/forms/shop/shopFields';
import { ShopForm } from '@/features/forms/shop/ShopForm';
import { Page } from '@/features/frame/Page';
import { preferences } from '@/server/base/context';

import { saveNewRig } from './actions';

export async function NewRigPage() {
  const { unit } = await preferences();
  return (
    <Page title="New rig" context={<strong>New rig</strong>}>
      <h1 className="answer">Four answers make a rig; the rest has its usual value.</h1>
      <ShopForm
        part="new-rig"
        of={{}}
        version={0}
        initial={emptyShop(unit)}
        unit={unit}
        save={saveNewRig}
        words="Add this rig"
        back={{ href: '/', words: 'Back' }}
      />
    </Page>
  );
}
