export { CorrectPage as default } from '@/features/correct/CorrectPage';
