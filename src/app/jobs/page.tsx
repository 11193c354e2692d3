export { JobsPage as default } from '@/features/jobs/JobsPage';
