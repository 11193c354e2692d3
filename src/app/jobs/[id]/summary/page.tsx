export { SummaryPage as default } from '@/features/follow/summary/SummaryPage';
