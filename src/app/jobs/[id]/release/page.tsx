export { ReleasePage as default } from '@/features/jobs/ReleasePage';
