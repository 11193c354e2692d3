export { PlanPage as default } from '@/features/jobs/PlanPage';
