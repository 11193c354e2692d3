export { RollPage as default } from '@/features/jobs/RollPage';
