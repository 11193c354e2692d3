export { SummaryPage as default } from '@/features/jobs/SummaryPage';
