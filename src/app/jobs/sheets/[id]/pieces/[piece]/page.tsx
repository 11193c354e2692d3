export { PiecePage as default } from '@/features/artwork/PiecePage';
