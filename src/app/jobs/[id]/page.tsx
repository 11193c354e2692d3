import { runAt } from '@/features/follow/loadRun';

/** A run's own address leads to the step it stands at. */
export default async function RunAddress({ params }: { params: Promise<{ id: string }> }) {
  await runAt((await params).id, null);
  return null;
}
