export { ChoosePage as default } from '@/features/placement/ChoosePage';
export const dynamic = 'force-dynamic';
