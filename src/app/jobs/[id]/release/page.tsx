export { ReleasePage as default } from '@/features/follow/release/ReleasePage';
