import { preferences } from '@/server/base/context';

import { Page } from '@/features/frame/Page';

import { emptyRig } from './rigForm';
import { RigForm } from './RigForm';

export async function NewRigPage() {
  const { unit } = await preferences();
  return (
    <Page context={<strong>New rig</strong>}>
      <h1 className="answer">
        One printer, one cutter, one media: tell what they are and what the machine’s offsets say now.
      </h1>
      <RigForm rigId={null} version={0} initial={emptyRig(unit)} unit={unit} />
    </Page>
  );
}
