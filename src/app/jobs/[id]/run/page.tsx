export { RunPage as default } from '@/features/jobs/RunPage';
